const letters = ['X', 'Y', 'Z'];
const colors = ['var(--x)', 'var(--y)', 'var(--z)'];

/**
 * Three directions, small, as a view sees them.
 * @param axes Nine numbers, direction by direction, in the world; null: an open ring.
 * @param view The view's world matrix, column by column: right, up, toward the eye.
 */
export function DirectionsSign({ axes, view, size }: { axes: number[] | null; view: number[]; size: number }) {
  const seen = (i: number, column: number) =>
    [0, 1, 2].reduce((sum, k) => sum + axes![3 * i + k]! * view[4 * column + k]!, 0);
  const needles = axes
    ? [0, 1, 2].map((i) => ({ i, x: seen(i, 0), y: seen(i, 1), z: seen(i, 2) })).toSorted((a, b) => a.z - b.z)
    : [];
  const small = size < 50;
  return (
    <svg width={size} height={size} viewBox="-38 -38 76 76" aria-hidden className="shrink-0">
      {!axes && <circle r="20" fill="none" stroke="var(--edge)" strokeWidth="3" strokeDasharray="6 6" />}
      {needles.map(({ i, x, y }) => (
        <g key={i} stroke={colors[i]} fill={colors[i]}>
          <line x2={x * 23} y2={-y * 23} strokeWidth={small ? 5 : 2.2} strokeLinecap="round" />
          <text
            x={x * 30}
            y={-y * 30}
            stroke="none"
            textAnchor="middle"
            dominantBaseline="central"
            fontSize={small ? 19 : 11}
            fontWeight="700"
          >
            {letters[i]}
          </text>
        </g>
      ))}
    </svg>
  );
}
