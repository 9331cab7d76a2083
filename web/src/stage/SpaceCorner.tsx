import { Quaternion, Vector3 } from 'three';
import { useStore } from '../state/store';
import { useFrames } from './frames';
import type { View } from './view';

const letters = ['X', 'Y', 'Z'];
const colors = ['var(--x)', 'var(--y)', 'var(--z)'];
const world = [1, 0, 0, 0, 1, 0, 0, 0, 1];

/** The three directions of the current space, small, as a view sees them now. */
export function SpaceCorner({ view, small }: { view: View; small: boolean }) {
  const verb = useStore((s) => s.verb);
  const spaces = useStore((s) => s.spaces);
  const picked = useStore((s) => s.selection.length > 0);
  // Drawn anew only when the view or the axes have turned.
  const key = useFrames(() => [...view.eye.look.turn.toArray(), ...((picked && view.handles.axes) || world)].join());
  const numbers = key.split(',').map(Number);
  const axes = numbers.slice(4);
  const back = new Quaternion().fromArray(numbers).invert();
  const needles = [0, 1, 2]
    .map((i) => ({ i, v: new Vector3(axes[3 * i], axes[3 * i + 1], axes[3 * i + 2]).applyQuaternion(back) }))
    .toSorted((a, b) => a.v.z - b.v.z);
  const space = picked ? spaces[verb] : 'world';
  const size = small ? 56 : 76;
  return (
    <svg
      className="pointer-events-none absolute top-3 right-3"
      width={size}
      height={size}
      viewBox="-38 -38 76 76"
      role="img"
      aria-label={`Directions of the ${space} axes`}
    >
      <circle r="36" fill="var(--paper)" stroke="var(--line)" opacity="0.92" />
      {needles.map(({ i, v }) => (
        <g key={i} stroke={colors[i]} fill={colors[i]}>
          <line x2={v.x * 22} y2={-v.y * 22} strokeWidth="2.2" strokeLinecap="round" />
          <text
            x={v.x * 29}
            y={-v.y * 29}
            stroke="none"
            textAnchor="middle"
            dominantBaseline="central"
            fontSize="11"
            fontWeight="700"
          >
            {letters[i]}
          </text>
        </g>
      ))}
    </svg>
  );
}
