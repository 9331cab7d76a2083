import { useEffect, useState, type DragEvent } from 'react';
import type { ShotReading } from '../../wire/bridgeTypes';
import { enterShot } from '../../acts/shots';
import { session } from '../../acts/session';
import { wantPicture, widthFor } from '../../acts/shotPictures';
import { CardMenu } from '../../controls/CardMenu';
import type { Stage } from '../../stage/stage';
import { get, useStore } from '../../state/store';
import { shotActs } from './shotActs';

/** One shot: its picture in its own aspect, its number and name, its length; what it has of its own, and whether the picture is older. */
export function ShotCard({ shot, index, stage }: { shot: ShotReading; index: number; stage: () => Stage | null }) {
  const current = useStore((s) => s.shot === shot.id);
  const narrow = useStore((s) => s.shot === shot.id && s.narrow);
  const picture = useStore((s) => s.shotPictures.get(shot.id));
  const older = useStore(
    (s) => (s.shotPictures.get(shot.id)?.version ?? null) !== (s.shotVersions.get(shot.id) ?? null),
  );
  const [over, setOver] = useState<'before' | 'after' | null>(null);
  useEffect(() => wantPicture(shot.id), [shot.id, older]);
  const lines = [
    shot.title,
    `${shot.length} frames, from ${shot.first} (${shot.code})`,
    shot.cameraNote ?? `through ${shot.cameraName}`,
    shot.cheats > 0 && `${shot.cheats} ${shot.cheats === 1 ? 'object has' : 'objects have'} something of their own`,
    shot.seen > 0 && `${shot.seen} seen otherwise than in the scene`,
    picture && older && 'the picture is older than what it shows',
    shot.note,
  ].filter((line): line is string => Boolean(line));
  const width = Math.min(98, widthFor(shot.aspect, 56));
  return (
    <CardMenu acts={shotActs(shot, stage)}>
      <div
        role="button"
        aria-pressed={current}
        tabIndex={0}
        data-shot={shot.id}
        title={lines.join('\n')}
        draggable
        onDragStart={(e) => e.dataTransfer.setData('text/calm-pivot-shot', shot.id)}
        onDragOver={(e) => {
          if (!e.dataTransfer.types.includes('text/calm-pivot-shot')) return;
          e.preventDefault();
          setOver(sideOf(e));
        }}
        onDragLeave={() => setOver(null)}
        onDrop={(e) => {
          e.preventDefault();
          setOver(null);
          drop(e.dataTransfer.getData('text/calm-pivot-shot'), index + (sideOf(e) === 'after' ? 1 : 0));
        }}
        onClick={() => enterShot(shot.id)}
        onDoubleClick={() => lookThrough(shot, stage())}
        onKeyDown={(e) => press(e, shot, stage)}
        className={`relative flex h-full cursor-pointer flex-col items-center justify-between overflow-hidden rounded-lg border px-1 pt-1 pb-0.5 ${current ? `border-2 border-plum ${narrow ? 'bg-wash' : ''}` : 'border-line hover:border-edge'}`}
      >
        {over && (
          <span
            aria-hidden
            className={`absolute top-0 bottom-0 w-[3px] bg-plum ${over === 'before' ? 'left-0' : 'right-0'}`}
          />
        )}
        <span className="grid h-14 w-full place-items-center overflow-hidden">
          {picture?.url ? (
            <img src={picture.url} alt="" draggable={false} className="h-14 rounded-[3px]" style={{ width }} />
          ) : (
            <span
              aria-hidden
              className="grid h-14 place-items-center rounded-[3px] bg-line/60 px-1 text-center text-[10.5px] leading-tight text-ink-2"
              style={{ width: Math.max(56, width) }}
            >
              {shot.cameraNote ? 'no camera' : '…'}
            </span>
          )}
        </span>
        <span className="flex w-full items-baseline gap-1">
          {shot.colour && (
            <span
              aria-hidden
              className="h-2 w-2 shrink-0 self-center rounded-[2px]"
              style={{ background: shot.colour }}
            />
          )}
          <span className={`min-w-0 flex-1 truncate text-left ${current ? 'font-semibold' : ''}`}>{shot.title}</span>
          <span className="shrink-0 font-mono text-[10.5px] text-ink-2">{shot.length.split(' · ')[0]}</span>
        </span>
        <span className="sr-only">
          {`, ${shot.frames} frames${shot.cheats > 0 ? ', has something of its own' : ''}`}
        </span>
        {shot.cheats > 0 && (
          <span
            aria-hidden
            className="absolute top-0 right-0 h-0 w-0 border-t-[11px] border-l-[11px] border-t-plum border-l-transparent"
            data-own
          />
        )}
        {picture?.url && older && (
          <span
            aria-hidden
            className="absolute top-1 left-1 rounded bg-paper/90 px-1 text-[10px] leading-[14px] text-ink-2"
            data-older
          >
            older
          </span>
        )}
      </div>
    </CardMenu>
  );
}

/** A press arranges in the shot; this looks through its camera, too. */
function lookThrough(shot: ShotReading, stage: Stage | null): void {
  if (shot.cameraNote !== null || shot.camera === null) session.say({ kind: 'info', text: shot.cameraNote ?? '' });
  else stage?.through(shot.camera);
}

function sideOf(e: DragEvent): 'before' | 'after' {
  const { left, width } = e.currentTarget.getBoundingClientRect();
  return e.clientX < left + width / 2 ? 'before' : 'after';
}

/** Puts a shot to another place in the order; its number stays. */
function drop(id: string, at: number): void {
  const from = get().shots.findIndex((s) => s.id === id);
  if (from < 0) return;
  const index = from < at ? at - 1 : at;
  if (index !== from) session.keep({ do: 'setShot', id, index });
}

function press(e: React.KeyboardEvent, shot: ShotReading, stage: () => Stage | null): void {
  const { shots } = get();
  const at = shots.findIndex((s) => s.id === shot.id);
  const way = { ArrowRight: 1, ArrowLeft: -1 }[e.key];
  if (way !== undefined) {
    e.preventDefault();
    e.stopPropagation();
    // With Ctrl it goes to another place in the order.
    if (e.ctrlKey || e.metaKey) drop(shot.id, way > 0 ? at + 2 : at - 1);
    else (document.querySelector(`[data-shot="${shots[at + way]?.id}"]`) as HTMLElement | null)?.focus();
  } else if (e.key === 'Enter' || e.key === ' ') {
    e.preventDefault();
    e.stopPropagation();
    enterShot(shot.id);
    if (e.key === 'Enter' && e.shiftKey) lookThrough(shot, stage());
  } else if (e.key === 'Delete') {
    e.stopPropagation();
    session.keep({ do: 'removeShot', id: shot.id });
  }
}
