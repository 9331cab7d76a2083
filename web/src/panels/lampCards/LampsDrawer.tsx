import { Gauge, Sun } from 'lucide-react';
import { useMemo } from 'react';
import { meter } from '../../acts/lamps';
import { session } from '../../acts/session';
import { CardRow } from '../../controls/CardRow';
import { get, set, useStore } from '../../state/store';
import { AllLamps } from './AllLamps';
import { LampCard } from './LampCard';
import { OwnCorner } from './OwnCorner';
import { distinct } from '../../core/colour';

/** The drawer of lamps: a card each, and before them what is for all together: surroundings, exposure, the strength of all. */
export function LampsDrawer() {
  const byId = useStore((s) => s.byId);
  const sight = useStore((s) => s.sight);
  const lead = useStore((s) => s.lead);
  const told = useStore((s) => s.lightTold);
  const lamps = useMemo(() => session.core.lamps(), [byId, sight, lead, told]);
  const surroundings = useMemo(() => session.core.surroundings(), [byId, sight, lead, told]);
  const colours = useMemo(() => distinct(lamps.map((lamp) => lamp.color)), [lamps]);
  const leftOut = useStore((s) => s.lampsLeftOut);
  const lit = useStore((s) => s.views[s.active]!.shading === 'lamps' || s.views[s.active]!.exact === true);
  return (
    <div className="flex h-full min-w-0 flex-1 items-stretch gap-1.5 px-1.5 py-1.5" role="group" aria-label="Lamps">
      <div className="flex w-[150px] shrink-0 flex-col justify-between rounded-lg border border-line px-1.5 py-0.5">
        <button
          type="button"
          className="flex items-center gap-1.5 rounded text-left hover:text-plum"
          title="What lights the scene from all sides"
          onClick={() => set({ open: get().open === 'surroundings' ? null : 'surroundings' })}
        >
          <span
            aria-hidden
            className="h-4 w-4 shrink-0 rounded-full border border-edge"
            style={{
              background:
                surroundings.style === 'sky'
                  ? `linear-gradient(${surroundings.color} 45%, ${surroundings.ground} 55%)`
                  : surroundings.color,
            }}
          />
          Surroundings
          {surroundings.own.includes('surroundings') && <OwnCorner />}
        </button>
        <AllLamps lamps={lamps} exposure={surroundings.exposure} own={surroundings.own.includes('exposure')} />
        <div className="flex gap-1">
          <button
            type="button"
            className="btn h-6 min-h-0 py-0 px-1.5 text-[11px]"
            title="Set the exposure by this view"
            onClick={meter}
          >
            <Gauge size={12} aria-hidden /> Meter
          </button>
          <LightView lit={lit} />
        </div>
      </div>
      <CardRow
        of="lamps"
        items={lamps}
        wide={132}
        none="No lamps yet. Add one in the tree."
        card={(lamp) => <LampCard lamp={lamp} chips={colours} />}
      />
      {lit && leftOut > 0 && (
        <p className="m-0 w-[104px] shrink-0 self-center text-[11px] leading-tight text-warning" role="status">
          The view leaves out {leftOut} {leftOut === 1 ? 'lamp' : 'lamps'}; stills show all.
        </p>
      )}
    </div>
  );
}

function LightView({ lit }: { lit: boolean }) {
  return (
    <button
      type="button"
      aria-pressed={lit}
      className={`btn h-6 min-h-0 py-0 px-1.5 text-[11px] ${lit ? 'border-plum bg-wash text-plum' : ''}`}
      title="Light the view by the scene’s lamps, or as before"
      onClick={() => {
        const { views, active } = get();
        const shading = views[active]!.shading === 'lamps' ? 'clay' : 'lamps';
        set({ views: views.map((v, i) => (i === active ? { ...v, shading } : v)) });
        session.picture?.draw();
      }}
    >
      <Sun size={12} aria-hidden /> View
    </button>
  );
}
