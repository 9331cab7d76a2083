import { Fragment, useEffect, useRef, useState, type CSSProperties, type ReactNode } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { importFile } from '../acts/importing';
import { isPicture, startBringing } from '../acts/materials';
import { giveDropped, leaveParts, overParts, receivers, under } from './giving';
import { session } from '../acts/session';
import { get, useStore } from '../state/store';
import { CameraFrame } from './CameraFrame';
import { DrawLayer } from './DrawLayer';
import { useFrames } from '../state/frames';
import { navigate } from './navigation';
import { Over } from './Over';
import { ShotEdge } from './ShotEdge';
import { Stage } from './stage';
import type { View } from './view';

/** What the sentence and the settings say that decides how the stage is drawn. */
const drawnBy = [
  'verb',
  'spaces',
  'abouts',
  'axes',
  'selection',
  'hoveredSpace',
  'hoveredAbout',
  'handlesOn',
  'childrenStay',
  'settings',
  'shadows',
  'plan',
  'others',
  'children',
  'views',
  'marks',
  'currentMark',
  'snap',
  'picked',
  'uprights',
  'allHandles',
  'newcomers',
  'trying',
  'prepared',
  'allThreads',
  'heldBy',
  'running',
] as const;

/** The stage in the page: a canvas, the handles over each view, and what stands in their corners. */
export function StageView({
  onStage,
  corner,
  menu,
}: {
  onStage: (stage: Stage | null) => void;
  /** What stands in the corner of a view. */
  corner: (stage: Stage, view: View) => ReactNode;
  /** What a press of the other button opens. */
  menu: (stage: Stage) => ReactNode;
}) {
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const overlays = useRef<(SVGSVGElement | null)[]>([]);
  const [stage, setStage] = useState<Stage | null>(null);
  const rects = useFrames((s) => s.rects);
  const { life, theme, picking, layout, active, foot, exact } = useStore(
    useShallow((s) => ({
      life: s.life,
      theme: s.settings.theme,
      picking: s.picking,
      layout: s.layout,
      active: s.active,
      foot: s.layout === 'four' || s.views[s.active]!.camera !== null ? s.foot : 0,
      exact: s.views.map((v) => v.exact).join(),
    })),
  );

  useEffect(() => {
    const made = new Stage(canvas.current!, overlays.current as SVGSVGElement[]);
    const leave = navigate(made, box.current!);
    const sizes = new ResizeObserver(([entry]) => made.resize(entry!.contentRect.width, entry!.contentRect.height));
    sizes.observe(box.current!);
    session.picture = made;
    setStage(made);
    onStage(made);
    // Seen by the end-to-end tests and the benchmarks.
    Object.assign(window, {
      calmPivotStage: made,
      calmPivotCore: session.core,
      calmPivotPage: get,
      calmPivotStore: useStore,
      calmPivotSession: session,
    });
    return () => {
      leave();
      sizes.disconnect();
      session.picture = null;
      onStage(null);
      made.dispose();
    };
  }, [onStage]);

  useEffect(() => stage?.readColors(), [stage, theme]);
  useEffect(() => stage?.fit(), [stage, layout, active, foot]);
  useEffect(
    () =>
      useStore.subscribe((now, before) => {
        if (drawnBy.some((word) => now[word] !== before[word])) stage?.draw();
      }),
    [stage],
  );

  const place = (i: number): CSSProperties => {
    const rect = rects[i];
    return rect ? { left: rect.x, top: rect.y, width: rect.width, height: rect.height } : { display: 'none' };
  };

  return (
    <div
      ref={box}
      className={`relative h-full w-full touch-none overflow-hidden bg-line outline-none ${picking ? 'cursor-crosshair' : ''}`}
      tabIndex={0}
      role="application"
      aria-label="Stage"
      data-stage
      onDragOver={(e) => {
        if (!stage) return;
        if (e.dataTransfer.types.includes('Files')) e.preventDefault();
        else if (get().giving) {
          e.preventDefault();
          e.dataTransfer.dropEffect = 'copy';
          overParts(stage, e);
        }
      }}
      onDragLeave={() => leaveParts()}
      onDrop={(e) => {
        if (!stage) return;
        e.preventDefault();
        const { view, x, y } = under(stage, e);
        const file = e.dataTransfer.files[0];
        if (!file) giveDropped();
        else if (isPicture(file)) startBringing(file, file.name, receivers(stage.pick(view, x, y)?.id ?? null));
        else void importFile(file, { to: 'point', point: stage.pointUnder(view, x, y).toArray() });
      }}
      data-picking={picking ?? undefined}
    >
      <canvas ref={canvas} className="absolute inset-0 h-full w-full" aria-hidden="true" />
      {[0, 1, 2, 3].map((i) => (
        <div key={i} className="absolute overflow-hidden" style={place(i)} data-view={i}>
          {stage && <CameraFrame key={`frame ${life}`} view={stage.views[i]!} />}
          <svg
            ref={(svg) => void (overlays.current[i] = svg)}
            className="handles"
            style={exact.split(',')[i] === 'true' ? { display: 'none' } : undefined}
            role="group"
            aria-label="Handles"
          />
          {layout === 'four' && i === active && (
            <div className="pointer-events-none absolute inset-0 border-2 border-plum" aria-hidden />
          )}
          {stage && (layout === 'four' || i === active) && (
            <Fragment key={`corner ${life}`}>{corner(stage, stage.views[i]!)}</Fragment>
          )}
        </div>
      ))}
      <Fragment key={life}>
        {stage && <Over stage={stage} />}
        <ShotEdge />
        {stage && <DrawLayer stage={stage} />}
        {stage && menu(stage)}
      </Fragment>
    </div>
  );
}
