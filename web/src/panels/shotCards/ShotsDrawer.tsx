import { useVirtualizer } from '@tanstack/react-virtual';
import { Plus } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { enterShot, shotFromView } from '../../acts/shots';
import type { Stage } from '../../stage/stage';
import { useStore } from '../../state/store';
import { hint } from '../../commands';
import { ShotCard } from './ShotCard';

const [wide, gap] = [110, 6];

/** The drawer of shots: a card a shot in the artist's order, the first one for none. */
export function ShotsDrawer({ stage }: { stage: () => Stage | null }) {
  const shots = useStore((s) => s.shots);
  const current = useStore((s) => s.shot);
  const scroller = useRef<HTMLDivElement>(null);
  const cards = useVirtualizer({
    horizontal: true,
    count: shots.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => wide + gap,
    overscan: 3,
  });
  const at = shots.findIndex((s) => s.id === current);
  // The current shot is always brought into view.
  useEffect(() => {
    if (at >= 0) cards.scrollToIndex(at, { align: 'auto' });
  }, [at, cards]);
  return (
    <div className="flex h-full min-w-0 flex-1 items-stretch gap-1.5 px-1.5 py-1.5" role="group" aria-label="Shots">
      <button
        type="button"
        aria-pressed={current === null}
        onClick={() => enterShot(null)}
        className={`flex w-[58px] shrink-0 flex-col items-center justify-center gap-0.5 rounded-lg border text-center leading-tight ${current === null ? 'border-2 border-plum bg-wash' : 'border-line hover:border-edge'}`}
        title="Arrange the scene itself, with no shot current"
      >
        <b className="font-semibold">All</b>
        <span className="text-ink-2">no shot</span>
      </button>
      <div
        ref={scroller}
        className="min-w-0 flex-1 overflow-x-auto overflow-y-hidden [scrollbar-width:thin]"
        data-shots
        onWheel={(e) => {
          if (e.deltaX === 0 && !e.shiftKey) e.currentTarget.scrollLeft += e.deltaY;
        }}
      >
        <div className="relative h-full" style={{ width: cards.getTotalSize() }}>
          {cards.getVirtualItems().map((item) => (
            <div
              key={shots[item.index]!.id}
              className="absolute top-0 h-full"
              style={{ left: item.start, width: wide }}
            >
              <ShotCard shot={shots[item.index]!} index={item.index} stage={stage} />
            </div>
          ))}
        </div>
      </div>
      <button
        type="button"
        className="flex w-[74px] shrink-0 flex-col items-center justify-center gap-1 rounded-lg border border-dashed border-edge text-center leading-tight text-ink-2 hover:border-plum hover:text-plum"
        title={`A camera where this view is, and a shot that is seen through it${hint('shot.new')}`}
        onClick={() => shotFromView()}
      >
        <Plus size={14} aria-hidden />
        Shot of this view
      </button>
    </div>
  );
}
