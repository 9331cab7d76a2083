import { useEffect, useRef } from 'react';
import type { LinkReading } from '../../core/answers';
import { whileDragged } from '../../acts/dragging';
import { session } from '../../acts/session';
import { angle, factor, length } from '../../controls/numbers';
import { useStore } from '../../state/store';

/** What a link adds at the moment, in figures; while something is dragged, written at every picture. */
export function LinkFigures({ node, reading, wide = false }: { node: string; reading: LinkReading; wide?: boolean }) {
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  const line = useRef<HTMLSpanElement>(null);
  const { id } = reading;
  useEffect(
    () =>
      whileDragged((tried) => {
        const now = tried && session.core.linksOf(node).find((r) => r.id === id);
        if (now && line.current?.firstChild) line.current.firstChild.nodeValue = does(now, unit);
      }),
    [node, id, unit],
  );
  return (
    <span
      ref={line}
      className={`min-w-0 font-mono text-[11px] text-ink-2 ${wide ? 'flex-1' : 'ml-auto shrink-0'}`}
      aria-label="Does now"
      role="note"
    >
      {does(reading, unit)}
    </span>
  );
}

function does(reading: LinkReading, unit: string): string {
  const parts = [
    ...(reading.turned > 1e-6 ? [`turns ${angle(reading.turned)}°`] : []),
    ...(reading.moved > 1e-9 ? [`moves ${length(reading.moved, unit)} ${unit}`] : []),
    ...(Math.abs(reading.scaled - 1) > 1e-9 ? [`size × ${factor(reading.scaled)}`] : []),
  ];
  return parts.length ? parts.join(' · ') : 'nothing now';
}
