import { useEffect } from 'react';
import { sendSheet } from '../../acts/sheetFile';
import { sendPictures } from '../../acts/shotLists';
import { session } from '../../acts/session';
import { wantPicture } from '../../acts/shotPictures';
import { OverStage } from '../../controls/OverStage';
import type { ShotReading } from '../../wire/bridgeTypes';
import { useStore } from '../../state/store';

/** All shots with their pictures, names and lengths on one sheet. */
export function ContactSheet() {
  const open = useStore((s) => s.open === 'sheet');
  const shots = useStore((s) => s.shots);
  const { total } = useStore((s) => s.timing);
  if (!open) return null;
  return (
    <OverStage
      title="Contact sheet"
      remark={`${shots.length} ${shots.length === 1 ? 'shot' : 'shots'} · ${total} frames`}
      acts={
        <>
          <button type="button" className="btn" onClick={() => void session.guarded(sendSheet)}>
            Save as one PNG
          </button>
          <button type="button" className="btn" onClick={() => void session.guarded(sendPictures)}>
            All pictures as .zip
          </button>
        </>
      }
    >
      <ol
        className="m-0 grid min-h-0 flex-1 list-none auto-rows-min grid-cols-[repeat(auto-fill,minmax(196px,1fr))] gap-3 overflow-auto p-3"
        tabIndex={0}
        aria-label="Shots on the sheet"
      >
        {shots.map((shot) => (
          <Cell key={shot.id} shot={shot} />
        ))}
      </ol>
    </OverStage>
  );
}

function Cell({ shot }: { shot: ShotReading }) {
  const picture = useStore((s) => s.shotPictures.get(shot.id));
  const older = useStore((s) => s.shotPictures.get(shot.id)?.version !== s.shotVersions.get(shot.id));
  useEffect(() => wantPicture(shot.id), [shot.id, older]);
  return (
    <li className="m-0" data-sheet-shot={shot.id}>
      <span className="grid h-28 place-items-center overflow-hidden rounded-md bg-line/50">
        {picture?.url ? (
          <img src={picture.url} alt="" className="h-28 max-w-full object-contain" />
        ) : (
          <span className="text-ink-2">{shot.cameraNote ? 'no camera' : '…'}</span>
        )}
      </span>
      <span className="mt-1 flex items-baseline gap-2">
        <b className="min-w-0 flex-1 truncate font-semibold">{shot.title}</b>
        <span className="shrink-0 whitespace-nowrap font-mono text-[11px] text-ink-2">{shot.length}</span>
      </span>
      {shot.note && <span className="block truncate text-ink-2">{shot.note}</span>}
    </li>
  );
}
