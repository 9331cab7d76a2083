import { useLayoutEffect, useRef } from 'react';
import { middleCut } from './middleCut';

/** One observer for all names; it is told after the page was laid out, so that asking for widths costs nothing. */
const widths =
  typeof ResizeObserver === 'undefined'
    ? null
    : new ResizeObserver((entries) => {
        for (const { target } of entries) fit(target as HTMLElement);
      });

/** A name in a row that may be too narrow for it: cut in the middle, since names often differ at their ends. The hint says it whole. */
export function Name({ text, className = '' }: { text: string; className?: string }) {
  const name = useRef<HTMLSpanElement>(null);
  useLayoutEffect(() => {
    const element = name.current!;
    delete element.dataset['cut'];
    widths?.observe(element);
    return () => widths?.unobserve(element);
  }, [text]);
  return (
    <span ref={name} className={`name ${className}`} title={text} dir="auto">
      <span>{text}</span>
    </span>
  );
}

/** The whole name stays in the page and keeps its width; what is seen of it is drawn over it by the style. */
function fit(element: HTMLElement): void {
  const [room, whole] = [element.clientWidth, element.scrollWidth];
  const text = element.textContent;
  if (whole <= room || room === 0) delete element.dataset['cut'];
  else element.dataset['cut'] = middleCut(text, Math.max(3, Math.floor((text.length * room) / whole) - 1));
}
