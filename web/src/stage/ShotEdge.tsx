import { currentShot } from '../state/shotsSlice';
import { useStore } from '../state/store';

/** The stage's edge carries the current shot's name; in plum and heavier when edits are made in it alone. */
export function ShotEdge() {
  const shot = useStore(currentShot);
  const narrow = useStore((s) => s.narrow);
  if (!shot) return null;
  return (
    <div
      className={`pointer-events-none absolute inset-0 z-[5] ${narrow ? 'border-[4px] border-plum' : 'border-[2px] border-edge'}`}
      data-shot-edge={narrow ? 'narrow' : 'wide'}
    >
      <span
        className={`absolute top-0 right-0 rounded-bl-lg px-3 pb-0.5 whitespace-nowrap ${narrow ? 'bg-plum text-on-plum' : 'bg-edge text-paper'}`}
      >
        {narrow ? (
          <>
            only <b className="font-semibold">{shot.title}</b>
          </>
        ) : (
          <>
            <b className="font-semibold">{shot.title}</b> · edits count in every shot
          </>
        )}
      </span>
    </div>
  );
}
