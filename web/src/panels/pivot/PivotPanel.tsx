import { memo, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { NodeAnswer, Vec3 } from '../../core/bridge';
import { session } from '../../state/session';
import { useStore } from '../../state/store';
import { NumberField } from '../NumberField';
import { length } from '../numbers';
import { sameLead } from '../sameLead';
import { Section } from '../Section';

const steps = [-1, 0, 1];
const anchors: Vec3[] = steps.flatMap((y) => steps.flatMap((z) => steps.map((x): Vec3 => [x, y, z])));

/** Where a point of the bounds is drawn in the small box. */
function drawn([x, y, z]: Vec3): { x: number; y: number } {
  return { x: 62 + x * 30 + z * -15, y: 56 - y * 33 + z * 10 + x * 4 };
}

/** The pivot: its place in the object's own frame, and the 27 points of the bounds that it can be put on. */
export const PivotPanel = memo(PivotOf, (a, b) => sameLead(a.lead, b.lead, (n) => [n.node.placement.pivot, n.bounds]));

function PivotOf({ lead }: { lead: NodeAnswer }) {
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  const [hovered, setHovered] = useState<Vec3 | null>(null);
  const [focused, setFocused] = useState<Vec3>([0, -1, 0]);
  const [numbers, setNumbers] = useState(false);
  const { placement, id } = lead.node;
  const present = presentAnchor(lead);
  const shown = hovered ?? present;
  const put = (anchor: Vec3) => session.setAnchor(anchor, 'own', numbers ? 'numbers' : 'world');

  const keyed = (e: KeyboardEvent) => {
    const way = {
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      ArrowUp: [1, 1],
      ArrowDown: [1, -1],
      PageUp: [2, -1],
      PageDown: [2, 1],
    }[e.key];
    if (way) {
      const next = [...focused] as Vec3;
      next[way[0]!] = Math.max(-1, Math.min(1, next[way[0]!]! + way[1]!));
      setFocused(next);
      setHovered(next);
    } else if (e.key === 'Enter' || e.key === ' ') put(focused);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };

  return (
    <Section title="Pivot" remark={shown ? session.core.anchorInWords(shown) : 'at a point of its own'}>
      <div className="flex gap-3">
        <svg
          width="124"
          height="112"
          viewBox="0 0 124 112"
          className="shrink-0 cursor-pointer rounded-lg border border-line"
          tabIndex={0}
          role="radiogroup"
          aria-label="Put the pivot on a point of the bounds. Arrows and Page keys choose, Enter puts it there."
          onKeyDown={keyed}
          onPointerMove={(e) => setHovered(nearest(e))}
          onPointerLeave={() => setHovered(null)}
          onBlur={() => setHovered(null)}
          onClick={(e) => put(nearest(e as unknown as PointerEvent<SVGSVGElement>))}
        >
          {steps.map((y) => (
            <path key={y} d={corners(y)} fill="none" stroke="var(--line)" />
          ))}
          {anchors.map((anchor) => {
            const { x, y } = drawn(anchor);
            const chosen = same(anchor, present);
            const hot = same(anchor, hovered);
            return (
              <circle
                key={anchor.join()}
                cx={x}
                cy={y}
                r={chosen ? 5 : hot ? 4.5 : 2.6}
                fill={chosen ? 'var(--plum)' : hot ? 'var(--ink-1)' : 'var(--edge)'}
                role="radio"
                aria-checked={chosen}
                aria-label={session.core.anchorInWords(anchor)}
              />
            );
          })}
        </svg>
        <div className="flex flex-1 flex-col items-start gap-1.5">
          <button type="button" className="btn" onClick={() => put([0, 0, 0])}>
            Middle
          </button>
          <button type="button" className="btn" onClick={() => put([0, -1, 0])}>
            Base
          </button>
          <button
            type="button"
            className="btn"
            aria-pressed={numbers}
            title="What stays when the pivot goes elsewhere"
            onClick={() => setNumbers(!numbers)}
          >
            {numbers ? 'Keep numbers' : 'Keep place'}
          </button>
        </div>
      </div>
      <div className="mt-2 grid grid-cols-[64px_1fr_1fr_1fr] items-center gap-1">
        <span className="text-ink-2">Point</span>
        {placement.pivot.map((value, axis) => (
          <NumberField
            key={axis}
            label={`Pivot ${'XYZ'[axis]}`}
            value={value}
            quantity="length"
            shown={(v) => length(v, unit)}
            accent={['var(--x)', 'var(--y)', 'var(--z)'][axis]!}
            keep={(v) => {
              const pivot = [...placement.pivot] as Vec3;
              pivot[axis] = v;
              return session.keep({
                do: 'movePivot',
                nodes: [id],
                to: { own: pivot },
                keep: numbers ? 'numbers' : 'world',
              });
            }}
          />
        ))}
      </div>
    </Section>
  );
}

function corners(y: number): string {
  const p = ([[-1, y, -1], [1, y, -1], [1, y, 1], [-1, y, 1]] as Vec3[]).map(drawn); // prettier-ignore
  return `M${p.map((c) => `${c.x} ${c.y}`).join('L')}Z`;
}

function nearest(e: PointerEvent<SVGSVGElement>): Vec3 {
  const box = e.currentTarget.getBoundingClientRect();
  const [px, py] = [e.clientX - box.left, e.clientY - box.top];
  const far = (a: Vec3) => Math.hypot(drawn(a).x - px, drawn(a).y - py);
  return anchors.reduce((best, a) => (far(a) < far(best) ? a : best));
}

/** Which of the 27 points the pivot stands on, if any; only for showing. */
function presentAnchor({ bounds, node }: NodeAnswer): Vec3 | null {
  if (!bounds) return null;
  const anchor: number[] = [];
  for (const axis of [0, 1, 2]) {
    const [low, high] = [bounds.low[axis]!, bounds.high[axis]!];
    const at = high === low ? 0 : ((node.placement.pivot[axis]! - low) / (high - low)) * 2 - 1;
    const step = Math.round(at);
    if (Math.abs(at - step) > 1e-6 || Math.abs(step) > 1) return null;
    anchor.push(step);
  }
  return anchor as Vec3;
}

function same(a: Vec3, b: Vec3 | null): boolean {
  return b !== null && a.every((v, i) => v === b[i]);
}
