import { useState, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';

/** What a grip listens to. */
export interface Grip {
  onPointerDown: (e: PointerEvent<HTMLElement>) => void;
  onPointerMove: (e: PointerEvent<HTMLElement>) => void;
  onPointerUp: () => void;
  onPointerCancel: () => void;
  onKeyDown: (e: KeyboardEvent) => void;
}

/** Changes the order of a list's rows by dragging their grips, or by arrow keys on them; Esc leaves a drag. */
export function useReorder(
  list: RefObject<HTMLOListElement | null>,
  put: (from: number, to: number) => void,
): { drag: { from: number; to: number } | null; grip: (at: number, count: number) => Grip } {
  const [drag, setDrag] = useState<{ from: number; to: number } | null>(null);
  const rowUnder = (y: number): number => {
    const rows = [...(list.current?.children ?? [])].map((row) => row.getBoundingClientRect());
    const at = rows.findIndex((r) => y < r.bottom);
    return at < 0 ? rows.length - 1 : at;
  };
  const grip = (at: number, count: number): Grip => ({
    onPointerDown: (e) => {
      if (e.button !== 0) return;
      e.preventDefault();
      e.currentTarget.setPointerCapture(e.pointerId);
      e.currentTarget.focus();
      setDrag({ from: at, to: at });
    },
    onPointerMove: (e) => {
      if (drag) setDrag({ from: drag.from, to: rowUnder(e.clientY) });
    },
    onPointerUp: () => {
      if (drag && drag.to !== drag.from) put(drag.from, drag.to);
      setDrag(null);
    },
    onPointerCancel: () => setDrag(null),
    onKeyDown: (e) => {
      const way = { ArrowUp: -1, ArrowDown: 1 }[e.key];
      if (e.key === 'Escape' && drag) setDrag(null);
      else if (way !== undefined && at + way >= 0 && at + way < count) put(at, at + way);
      else return;
      e.preventDefault();
      e.stopPropagation();
    },
  });
  return { drag, grip };
}
