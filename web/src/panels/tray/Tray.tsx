import { ChevronDown, ChevronUp, Film, Image, LampDesk, PaintRoller } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { Stage } from '../../stage/stage';
import { arrange } from '../../commands/page';
import { shotFromView } from '../../acts/shots';
import { later } from '../../controls/later';
import { settingsOf } from '../../state/settings';
import { currentShot } from '../../state/shotsSlice';
import { set, useStore } from '../../state/store';
import { ShotsMenu } from './ShotsMenu';
import { MaterialsMenu } from '../materialCards/MaterialsMenu';
import { LampsMenu } from '../lampCards/LampsMenu';
import { StillsMenu } from '../stillCards/StillsMenu';
import { ShotsDrawer } from '../shotCards/ShotsDrawer';

// Shots are what it opens with; the other drawers are fetched when they are first pulled.
const leave = () => set({ drawer: 'shots' });
const MaterialsDrawer = later(() => import('../materialCards/MaterialsDrawer').then((m) => m.MaterialsDrawer), {
  leave,
});
const LampsDrawer = later(() => import('../lampCards/LampsDrawer').then((m) => m.LampsDrawer), { leave });
const StillsDrawer = later(() => import('../stillCards/StillsDrawer').then((m) => m.StillsDrawer), { leave });

/** Below this height of the window the stage would have too little room beside the tray. */
const least = 720;

const drawers = [
  { drawer: 'shots', word: 'Shots', icon: Film },
  { drawer: 'materials', word: 'Materials', icon: PaintRoller },
  { drawer: 'lamps', word: 'Lamps', icon: LampDesk },
  { drawer: 'stills', word: 'Stills', icon: Image },
] as const;

/** The tray at the foot of the stage's column: the drawers of shots, materials, lamps and stills. It folds to a line, and does so by itself where the stage is low. */
export function Tray({ stage }: { stage: () => Stage | null }) {
  const { tray } = settingsOf(useStore((s) => s.settings)).arrangement;
  const count = useStore((s) => s.shots.length);
  const low = useLow();
  const drawer = useStore((s) => s.drawer);
  const some = count > 0 || drawer !== 'shots';
  if (!tray || low || !some) return <Folded low={low && tray && some} />;
  return (
    <section aria-label="Tray" className="apart flex h-[104px] shrink-0 border-t border-line bg-paper" data-tray>
      <div className="flex w-[60px] shrink-0 border-r border-line px-0.5 py-1">
        <div className="flex flex-col" role="group" aria-label="Drawers">
          {drawers.map(({ drawer: one, word, icon: Icon }) => (
            <button
              key={one}
              type="button"
              aria-pressed={one === drawer}
              className={`grid h-6 w-7 place-items-center rounded ${one === drawer ? 'bg-wash text-plum' : 'text-ink-2 hover:text-plum'}`}
              aria-label={word}
              title={word}
              onClick={() => set({ drawer: one })}
            >
              <Icon size={14} aria-hidden />
            </button>
          ))}
        </div>
        <div className="flex flex-col justify-between">
          <Menu stage={stage} />
          <button
            type="button"
            className="grid h-6 w-7 place-items-center rounded text-ink-2 hover:text-plum"
            aria-label="Fold the tray"
            title="Fold the tray"
            onClick={() => arrange({ tray: false })}
          >
            <ChevronDown size={14} aria-hidden />
          </button>
        </div>
      </div>
      {drawer === 'shots' && <ShotsDrawer stage={stage} />}
      {drawer === 'materials' && <MaterialsDrawer />}
      {drawer === 'lamps' && <LampsDrawer />}
      {drawer === 'stills' && <StillsDrawer />}
    </section>
  );
}

/** What is done with all that a drawer holds. */
function Menu({ stage }: { stage: () => Stage | null }) {
  const drawer = useStore((s) => s.drawer);
  if (drawer === 'shots') return <ShotsMenu stage={stage} />;
  if (drawer === 'materials') return <MaterialsMenu stage={stage} />;
  return drawer === 'lamps' ? <LampsMenu stage={stage} /> : <StillsMenu stage={stage} />;
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
            onClick={() => {
              if (count > 0) set({ drawer: 'shots' });
              arrange({ tray: true });
            }}
          >
            <ChevronUp size={14} aria-hidden /> Shots
          </button>
        </>
      )}
      {drawers.slice(1).map(({ drawer, word, icon: Icon }, i) => (
        <button
          key={drawer}
          type="button"
          className={`flex items-center gap-1 rounded px-1 hover:text-plum ${count === 0 && i === 0 ? 'ml-auto' : ''}`}
          aria-label={word}
          disabled={low}
          title={low ? 'The window is too low for it' : `Open the drawer: ${word}`}
          onClick={() => {
            set({ drawer });
            arrange({ tray: true });
          }}
        >
          <Icon size={13} aria-hidden /> {word}
        </button>
      ))}
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
