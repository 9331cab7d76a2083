import { takeBack } from '../acts/shots';
import { currentShot } from '../state/shotsSlice';
import { useStore } from '../state/store';

/** A small plum corner at a number that is otherwise in the current shot than in the scene; a press takes it back. */
export function CheatCorner({ channel }: { channel: string }) {
  const cheat = useStore((s) => s.cheats.find((c) => c.channel === channel));
  const shot = useStore((s) => currentShot(s)?.title);
  if (!cheat) return null;
  return (
    <button
      type="button"
      className="absolute -top-px -right-px z-10 flex h-5 w-5 justify-end"
      aria-label={`Its own in ${shot}: take it back to ${cheat.there}`}
      title={`Its own in ${shot}. In the scene ${cheat.there}. A press takes it back.`}
      data-cheated={channel}
      onClick={() => takeBack(cheat.of, [channel])}
    >
      <span aria-hidden className="block h-3.5 w-3.5 rounded-tr-lg bg-plum [clip-path:polygon(0_0,100%_0,100%_100%)]" />
    </button>
  );
}
