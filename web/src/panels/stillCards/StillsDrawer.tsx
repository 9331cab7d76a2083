import { useVirtualizer } from '@tanstack/react-virtual';
import { Plus, Square, X } from 'lucide-react';
import { useRef } from 'react';
import { stopStill, time } from '../../acts/stills';
import { set, useStore } from '../../state/store';
import { StillCard } from './StillCard';

const [wide, gap] = [132, 6];

/** The drawer of stills: a card each, the newest first; before them what is being made. */
export function StillsDrawer() {
  const stills = useStore((s) => s.stills);
  const scroller = useRef<HTMLDivElement>(null);
  const cards = useVirtualizer({
    horizontal: true,
    count: stills.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => wide + gap,
    overscan: 4,
  });
  return (
    <div className="flex h-full min-w-0 flex-1 items-stretch gap-1.5 px-1.5 py-1.5" role="group" aria-label="Stills">
      <Making />
      <div
        ref={scroller}
        className="min-w-0 flex-1 overflow-x-auto overflow-y-hidden [scrollbar-width:thin]"
        data-stills
        onWheel={(e) => {
          if (e.deltaX === 0 && !e.shiftKey) e.currentTarget.scrollLeft += e.deltaY;
        }}
      >
        {stills.length === 0 ? (
          <p className="m-0 p-3 text-ink-2">
            No stills yet. A still is an image of a shot, a camera or this view, lit by the scene’s lamps.
          </p>
        ) : (
          <div className="relative h-full" style={{ width: cards.getTotalSize() }}>
            {cards.getVirtualItems().map((item) => {
              const still = stills[stills.length - 1 - item.index]!;
              return (
                <div key={still.id} className="absolute top-0 h-full" style={{ left: item.start, width: wide }}>
                  <StillCard still={still} />
                </div>
              );
            })}
          </div>
        )}
      </div>
    </div>
  );
}

function Making() {
  const making = useStore((s) => s.making);
  if (!making)
    return (
      <button
        type="button"
        className="flex w-[84px] shrink-0 flex-col items-center justify-center gap-1 rounded-lg border border-dashed border-edge text-center leading-tight text-ink-2 hover:border-plum hover:text-plum"
        title="Make an image of a shot, a camera or this view"
        onClick={() => set({ open: 'stillMake' })}
      >
        <Plus size={14} aria-hidden />
        Make a still
      </button>
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
