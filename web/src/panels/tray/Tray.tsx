import { ChevronDown, ChevronUp, Film } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { Stage } from '../../stage/stage';
import { arrange } from '../../commands/page';
import { shotFromView } from '../../acts/shots';
import { settingsOf } from '../../state/settings';
import { currentShot } from '../../state/shotsSlice';
import { useStore } from '../../state/store';
import { ShotsDrawer } from '../shotCards/ShotsDrawer';

/** Below this height of the window the stage would have too little room beside the tray. */
const least = 720;

/** The tray at the foot of the stage's column: the drawer of shots. It folds to a line, and does so by itself where the stage is low. */
export function Tray({ stage }: { stage: () => Stage | null }) {
  const { tray } = settingsOf(useStore((s) => s.settings)).arrangement;
  const count = useStore((s) => s.shots.length);
  const low = useLow();
  if (!tray || low || count === 0) return <Folded low={low && tray && count > 0} />;
  return (
    <section aria-label="Tray" className="apart flex h-[104px] shrink-0 border-t border-line bg-paper" data-tray>
      <div
        className="flex w-8 shrink-0 flex-col items-center border-r border-line pt-1"
        role="group"
        aria-label="Drawers"
      >
        <span className="grid h-7 w-7 place-items-center rounded-lg bg-wash text-plum" title="Shots">
          <Film size={15} aria-hidden />
        </span>
        <button
          type="button"
          className="mt-auto mb-1 grid h-6 w-6 place-items-center rounded text-ink-2 hover:text-plum"
          aria-label="Fold the tray"
          title="Fold the tray"
          onClick={() => arrange({ tray: false })}
        >
          <ChevronDown size={14} aria-hidden />
        </button>
      </div>
      <ShotsDrawer stage={stage} />
    </section>
  );
}

function Folded({ low }: { low: boolean }) {
  const shot = useStore(currentShot);
  const count = useStore((s) => s.shots.length);
  const { total } = useStore((s) => s.timing);
  return (
    <section
      aria-label="Tray"
      className="flex h-7 shrink-0 items-center gap-2 border-t border-line bg-paper px-2 text-ink-2"
      data-tray="folded"
    >
      <Film size={13} aria-hidden />
      {count === 0 ? (
        <button type="button" className="rounded px-1 hover:text-plum" onClick={() => shotFromView()}>
          No shots yet · make one of this view
        </button>
      ) : (
        <>
          <span>
            {count} {count === 1 ? 'shot' : 'shots'} · {total}
            {shot ? ` · arranging ${shot.title}` : ''}
          </span>
          <button
            type="button"
            className="ml-auto flex items-center gap-1 rounded px-1 hover:text-plum"
            aria-label="Open the tray"
            disabled={low}
            title={low ? 'The window is too low for it' : 'Open the tray'}
            onClick={() => arrange({ tray: true })}
          >
            <ChevronUp size={14} aria-hidden /> Shots
          </button>
        </>
      )}
    </section>
  );
}

function useLow(): boolean {
  const [low, setLow] = useState(() => window.innerHeight < least);
  useEffect(() => {
    const look = () => setLow(window.innerHeight < least);
    window.addEventListener('resize', look);
    return () => window.removeEventListener('resize', look);
  }, []);
  return low;
}
