import { useVirtualizer } from '@tanstack/react-virtual';
import { Plus } from 'lucide-react';
import { useEffect, useRef, type ReactNode } from 'react';

const gap = 6;

/** Cards side by side, however many; only those in sight are there. The wheel goes along them. */
export function CardRow<T extends { id: string }>(props: {
  /** What they are: it becomes `data-…` of the row. */
  of: string;
  items: readonly T[];
  /** The width of a card, in pixels. */
  wide: number;
  /** Said where there are none. */
  none: string;
  /** The one that is always brought into view. */
  current?: number;
  card: (item: T, index: number) => ReactNode;
}) {
  const { of, items, wide, none, current = -1, card } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const cards = useVirtualizer({
    horizontal: true,
    count: items.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => wide + gap,
    overscan: 4,
  });
  useEffect(() => {
    if (current >= 0) cards.scrollToIndex(current, { align: 'auto' });
  }, [current, cards]);
  return (
    <div
      ref={scroller}
      className="min-w-0 flex-1 overflow-x-auto overflow-y-hidden [scrollbar-width:thin]"
      {...{ [`data-${of}`]: '' }}
      onWheel={(e) => {
        if (e.deltaX === 0 && !e.shiftKey) e.currentTarget.scrollLeft += e.deltaY;
      }}
    >
      {items.length === 0 && none !== '' ? (
        <p className="m-0 p-3 text-ink-2">{none}</p>
      ) : (
        <div className="relative h-full" style={{ width: cards.getTotalSize() }}>
          {cards.getVirtualItems().map((at) => {
            const item = items[at.index]!;
            return (
              <div key={item.id} className="absolute top-0 h-full" style={{ left: at.start, width: wide }}>
                {card(item, at.index)}
              </div>
            );
          })}
        </div>
      )}
    </div>
  );
}

/** Beside the cards: makes another one. */
export function NewCard({ word, means, act }: { word: string; means: string; act: () => void }) {
  return (
    <button
      type="button"
      className="flex w-[74px] shrink-0 flex-col items-center justify-center gap-1 rounded-lg border border-dashed border-edge text-center leading-tight text-ink-2 hover:border-plum hover:text-plum"
      title={means}
      onClick={act}
    >
      <Plus size={14} aria-hidden />
      {word}
    </button>
  );
}
