import { Square, X } from 'lucide-react';
import { useMemo } from 'react';
import { stopStill, time } from '../../acts/stills';
import { CardRow, NewCard } from '../../controls/CardRow';
import { set, useStore } from '../../state/store';
import { StillCard } from './StillCard';

/** The drawer of stills: a card each, the newest first; before them what is being made. */
export function StillsDrawer() {
  const stills = useStore((s) => s.stills);
  const newest = useMemo(() => stills.toReversed(), [stills]);
  return (
    <div className="flex h-full min-w-0 flex-1 items-stretch gap-1.5 px-1.5 py-1.5" role="group" aria-label="Stills">
      <Making />
      <CardRow
        of="stills"
        items={newest}
        wide={132}
        none="No stills yet. A still is an image of a shot, a camera or this view, lit by the scene’s lamps."
        card={(still) => <StillCard still={still} />}
      />
    </div>
  );
}

function Making() {
  const making = useStore((s) => s.making);
  if (!making)
    return (
      <NewCard
        word="Make a still"
        means="Make an image of a shot, a camera or this view"
        act={() => set({ open: 'stillMake' })}
      />
    );
  const { name, done, all, left, stopping } = making;
  return (
    <div
      className="flex w-[168px] shrink-0 flex-col justify-between rounded-lg border border-plum px-1.5 py-1"
      data-making
    >
      <span className="truncate" title={name}>
        Making {name}
      </span>
      <progress className="h-1.5 w-full accent-plum" value={done} max={all} aria-label={`Making ${name}`} />
      <span className="text-[10.5px] text-ink-2">
        {done} of {all} {all === 1 ? 'pass' : 'passes'}
        {left === null ? '' : ` · ${time(left)} left`}
      </span>
      <div className="flex gap-1">
        <button
          type="button"
          className="btn h-6 min-h-0 py-0 px-1.5 text-[11px]"
          title="Stop here, and keep what there is"
          disabled={stopping}
          onClick={() => stopStill(true)}
        >
          <Square size={11} aria-hidden /> Keep this
        </button>
        <button
          type="button"
          className="btn h-6 min-h-0 py-0 px-1.5 text-[11px]"
          title="Stop, and keep nothing"
          disabled={stopping}
          onClick={() => stopStill(false)}
        >
          <X size={11} aria-hidden /> Drop it
        </button>
      </div>
    </div>
  );
}
