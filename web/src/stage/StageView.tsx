import { useEffect, useRef, useState } from 'react';
import { session } from '../state/session';
import { useStore } from '../state/store';
import { navigate } from './navigation';
import { Stage } from './stage';
import { SpaceCorner } from './SpaceCorner';
import { ViewMenu } from './ViewMenu';

/** The stage in the page: a canvas, the handles over it, and what stands in its corners. */
export function StageView({ onStage }: { onStage: (stage: Stage | null) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const overlay = useRef<SVGSVGElement>(null);
  const [stage, setStage] = useState<Stage | null>(null);
  const [, setDrawn] = useState(0);
  const theme = useStore((s) => s.settings.theme);
  const picking = useStore((s) => s.picking);

  useEffect(() => {
    const made = new Stage(canvas.current!, overlay.current!, () => setDrawn((n) => n + 1));
    const leave = navigate(made, box.current!);
    const sizes = new ResizeObserver(([entry]) => made.resize(entry!.contentRect.width, entry!.contentRect.height));
    sizes.observe(box.current!);
    session.picture = made;
    setStage(made);
    onStage(made);
    // Seen by the end-to-end tests and the benchmarks.
    Object.assign(window, { calmPivotStage: made, calmPivotCore: session.core });
    return () => {
      leave();
      sizes.disconnect();
      session.picture = null;
      onStage(null);
      made.dispose();
    };
  }, [onStage]);

  useEffect(() => stage?.readColors(), [stage, theme]);

  // What the sentence says decides which handles are drawn.
  useEffect(
    () =>
      useStore.subscribe((now, before) => {
        const words = [
          'verb',
          'spaces',
          'abouts',
          'axes',
          'selection',
          'hoveredSpace',
          'hoveredAbout',
          'handlesOn',
          'childrenStay',
        ] as const;
        if (words.some((word) => now[word] !== before[word])) stage?.draw();
      }),
    [stage],
  );

  return (
    <div
      ref={box}
      className={`relative h-full w-full overflow-hidden bg-stage outline-none ${picking ? 'cursor-crosshair' : ''}`}
      tabIndex={0}
      role="application"
      aria-label="Stage"
      data-stage
    >
      <canvas ref={canvas} className="absolute inset-0 h-full w-full" aria-hidden="true" />
      <svg ref={overlay} className="handles" role="group" aria-label="Handles" />
      {stage && <ViewMenu stage={stage} />}
      {stage && <SpaceCorner stage={stage} />}
    </div>
  );
}
