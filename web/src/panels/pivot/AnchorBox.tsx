import { useState, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import type { Vec3 } from '../../core/answers';
import { session } from '../../acts/session';

const steps = [-1, 0, 1];
const anchors: Vec3[] = steps.flatMap((y) => steps.flatMap((z) => steps.map((x): Vec3 => [x, y, z])));
const width = 128;
const height = 112;

/** The edges of the box, between its corners. */
const edges: [Vec3, Vec3][] = steps.flatMap((a) =>
  steps.flatMap((b): [Vec3, Vec3][] =>
    a !== 0 && b !== 0
      ? [
          [[-1, a, b], [1, a, b]],
          [[a, -1, b], [a, 1, b]],
          [[a, b, -1], [a, b, 1]],
        ]
      : [],
  ),
); // prettier-ignore

/** The 27 points of the bounds in a small box, which a drag turns. Each reads in words. */
export function AnchorBox(props: {
  present: Vec3 | null;
  hovered: Vec3 | null;
  hover: (anchor: Vec3 | null) => void;
  put: (anchor: Vec3) => void;
}) {
  const { present, hovered, hover, put } = props;
  const [turn, setTurn] = useState({ yaw: 28, pitch: 20 });
  const [focused, setFocused] = useState<Vec3>([0, -1, 0]);
  const held = useRef<{ x: number; y: number; yaw: number; pitch: number; turned: boolean } | null>(null);

  const drawn = ([x, y, z]: Vec3): { x: number; y: number; depth: number } => {
    const [sy, cy] = [Math.sin((turn.yaw * Math.PI) / 180), Math.cos((turn.yaw * Math.PI) / 180)];
    const [sp, cp] = [Math.sin((turn.pitch * Math.PI) / 180), Math.cos((turn.pitch * Math.PI) / 180)];
    const [right, away] = [x * cy - z * sy, x * sy + z * cy];
    return { x: width / 2 + right * 32, y: height / 2 - (y * cp - away * sp) * 32, depth: away * cp + y * sp };
  };

  const nearest = (e: PointerEvent<SVGSVGElement>): Vec3 => {
    const box = e.currentTarget.getBoundingClientRect();
    const [px, py] = [e.clientX - box.left, e.clientY - box.top];
    // Of points that lie over each other the one in front is meant.
    const far = (a: Vec3) => Math.hypot(drawn(a).x - px, drawn(a).y - py) - drawn(a).depth * 0.6;
    return anchors.reduce((best, a) => (far(a) < far(best) ? a : best));
  };

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
      hover(next);
    } else if (e.key === 'Enter' || e.key === ' ') put(focused);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };

  const line = ([a, b]: [Vec3, Vec3]) => {
    const [p, q] = [drawn(a), drawn(b)];
    return `M${p.x} ${p.y}L${q.x} ${q.y}`;
  };
  return (
    <svg
      width={width}
      height={height}
      className="shrink-0 cursor-pointer touch-none rounded-lg border border-line"
      tabIndex={0}
      role="radiogroup"
      aria-label="Put the pivot on a point of the bounds. Arrows and Page keys choose, Enter puts it there; a drag turns the box."
      onKeyDown={keyed}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        held.current = { x: e.clientX, y: e.clientY, ...turn, turned: false };
      }}
      onPointerMove={(e) => {
        const h = held.current;
        if (!h) {
          hover(nearest(e));
          return;
        }
        const [dx, dy] = [e.clientX - h.x, e.clientY - h.y];
        if (!h.turned && Math.hypot(dx, dy) < 4) return;
        h.turned = true;
        setTurn({ yaw: h.yaw + dx, pitch: Math.max(-80, Math.min(80, h.pitch + dy)) });
      }}
      onPointerUp={(e) => {
        if (held.current && !held.current.turned) put(nearest(e));
        held.current = null;
      }}
      onPointerLeave={() => hover(null)}
      onBlur={() => hover(null)}
    >
      {edges.map((edge) => (
        <path key={edge.join()} d={line(edge)} fill="none" stroke="var(--line)" />
      ))}
      {anchors.map((anchor) => {
        const { x, y, depth } = drawn(anchor);
        const chosen = same(anchor, present);
        const hot = same(anchor, hovered);
        return (
          <circle
            key={anchor.join()}
            cx={x}
            cy={y}
            r={chosen ? 5 : hot ? 4.5 : 2.6 + depth * 0.35}
            fill={chosen ? 'var(--plum)' : hot ? 'var(--ink-1)' : 'var(--edge)'}
            role="radio"
            aria-checked={chosen}
            aria-label={session.core.anchorInWords(anchor)}
          />
        );
      })}
    </svg>
  );
}

function same(a: Vec3, b: Vec3 | null): boolean {
  return b !== null && a.every((v, i) => v === b[i]);
}
