import { Vector3 } from 'three';
import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { isRefusal, type DrawnShape } from '../core/answers';
import { session } from '../acts/session';
import { get, set, useStore } from '../state/store';
import { trianglesNear } from './snapping';
import type { Stage } from './stage';
import type { View } from './view';

interface Drawing {
  view: View;
  id: string;
  name: string;
  rising: boolean;
  drawn: DrawnShape | null;
}

/** Lies over the stage while a shape is drawn by eye: a drag draws the footprint, a move the height, a press keeps it. */
export function DrawLayer({ stage }: { stage: Stage }) {
  const type = useStore((s) => s.drawing);
  const held = useRef<Drawing | null>(null);
  const layer = useRef<HTMLDivElement>(null);
  const [shown, setShown] = useState<{ lines: string; words: string; x: number; y: number } | null>(null);

  useEffect(() => {
    held.current = null;
    setShown(null);
    if (type === null) return;
    session.say({ kind: 'info', text: `Drag the footprint of the ${type} on a surface or on the ground. Esc leaves.` });
    const leave = (e: KeyboardEvent) => {
      if (e.key === 'Escape') set({ drawing: null, notice: null });
    };
    // What follows the pointer is put back by a press on anything else, which does its own.
    const pressed = (e: globalThis.PointerEvent) => {
      if (held.current?.rising && !layer.current?.contains(e.target as Node)) set({ drawing: null, notice: null });
    };
    window.addEventListener('keydown', leave, true);
    window.addEventListener('pointerdown', pressed, true);
    return () => {
      window.removeEventListener('keydown', leave, true);
      window.removeEventListener('pointerdown', pressed, true);
    };
  }, [type]);

  if (type === null) return null;

  const local = (e: PointerEvent) => {
    const box = e.currentTarget.getBoundingClientRect();
    return { x: e.clientX - box.left, y: e.clientY - box.top };
  };

  const follow = (e: PointerEvent) => {
    const drawing = held.current;
    if (!drawing) return;
    const at = local(e);
    const { view } = drawing;
    const steps = get().stepSizes.move;
    const step = steps.on !== (e.ctrlKey || e.metaKey) ? steps.size : 0;
    const ray = view.eye.ray(at.x - view.rect.x, at.y - view.rect.y);
    const drawn = session.core.drawTo(ray, step, drawing.rising, drawing.id, drawing.name);
    if (isRefusal(drawn)) return;
    drawing.drawn = drawn;
    setShown({ lines: outline(view, drawn, drawing.rising), words: drawn.words, ...at });
  };

  const press = (e: PointerEvent) => {
    if (e.button !== 0) return;
    if (held.current?.rising) {
      follow(e);
      keep(held.current);
      return;
    }
    const at = local(e);
    const { view, x, y } = stage.viewAt(at.x, at.y);
    stage.activate(view);
    const hit = stage.pick(view, x, y);
    const reach = hit ? view.eye.pixel(hit.point) * 9 : 0;
    // On a surface its face decides how the shape stands; its edges and vertices are caught as its corner.
    const met = hit?.face
      ? session.core.surfaceAt(hit.id, trianglesNear(stage, view, hit, reach), hit.point.toArray(), 0)
      : null;
    const origin = met?.point ?? stage.pointUnder(view, x, y).toArray();
    const refusal = session.core.drawShape(
      type,
      origin,
      met?.upright ?? [0, 1, 0],
      view.eye.world(),
      view.eye.parallel,
    );
    if (refusal) {
      session.say({ kind: 'refusal', text: refusal.detail });
      return;
    }
    e.currentTarget.setPointerCapture(e.pointerId);
    const name = type[0]!.toUpperCase() + type.slice(1);
    held.current = { view, id: crypto.randomUUID(), name, rising: false, drawn: null };
  };

  const release = () => {
    const drawing = held.current;
    if (!drawing || drawing.rising) return;
    if (!drawing.drawn?.edit) {
      held.current = null;
      setShown(null);
      session.say({ kind: 'info', text: 'That is too small for a footprint. Drag from one corner to the other.' });
    } else if (drawing.drawn.hasHeight) {
      drawing.rising = true;
      session.say({ kind: 'info', text: 'Move up or down for its height, and press to keep it.' });
    } else keep(drawing);
  };

  const keep = ({ drawn, id }: Drawing) => {
    set({ drawing: null });
    if (drawn?.edit) session.keepAndPick([drawn.edit], [id]);
  };

  return (
    <div
      ref={layer}
      data-over-stage
      data-draw
      className="absolute inset-0 cursor-crosshair touch-none"
      onPointerDown={press}
      onPointerMove={follow}
      onPointerUp={release}
    >
      {shown && (
        <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
          <path d={shown.lines} fill="none" stroke="var(--plum)" strokeWidth="2" />
        </svg>
      )}
      {shown && (
        <span
          className="pointer-events-none absolute rounded-md bg-ink-1 px-2 py-0.5 font-mono text-[12px] text-paper"
          style={{ left: shown.x + 16, top: shown.y - 30 }}
        >
          {shown.words}
        </span>
      )}
    </div>
  );
}

/** The edges of the drawn bounds, as a view sees them. */
function outline(view: View, { corners }: DrawnShape, rising: boolean): string {
  const at = (i: number) => {
    const p = view.eye.project(new Vector3(corners[3 * i], corners[3 * i + 1], corners[3 * i + 2]));
    return p && `${(p.x + view.rect.x).toFixed(1)} ${(p.y + view.rect.y).toFixed(1)}`;
  };
  const lines: [number, number][] = [[0, 1], [1, 2], [2, 3], [3, 0]]; // prettier-ignore
  if (rising) lines.push([4, 5], [5, 6], [6, 7], [7, 4], [0, 4], [1, 5], [2, 6], [3, 7]);
  return lines
    .map(([a, b]) => [at(a), at(b)])
    .filter(([a, b]) => a && b)
    .map(([a, b]) => `M${a}L${b}`)
    .join('');
}
