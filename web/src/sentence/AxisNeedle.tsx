import { session } from '../acts/session';
import { useFrames } from '../state/frames';

/** Which way an axis of the sentence points as it is seen now: a short needle; a ring with a dot where it points at the eye. */
export function AxisNeedle({ axis }: { axis: number }) {
  // Drawn anew only when the view or the axes have turned.
  const way = useFrames(() => {
    const seen = session.picture?.axisSeen(axis);
    return seen ? seen.map((v) => v.toFixed(2)).join() : '';
  });
  const [x, y, toward] = way.split(',').map(Number);
  if (way === '') return null;
  const [dx, dy] = [x! * 7, -y! * 7];
  const flat = Math.hypot(dx, dy) < 1.5;
  return (
    <svg width="16" height="16" viewBox="-8 -8 16 16" aria-hidden data-way={way} className="shrink-0">
      {flat ? (
        <>
          <circle r="4.5" fill="none" stroke="currentColor" strokeWidth="1.5" />
          {toward! > 0 && <circle r="1.5" fill="currentColor" />}
        </>
      ) : (
        <>
          <line
            x1={-dx * 0.55}
            y1={-dy * 0.55}
            x2={dx}
            y2={dy}
            stroke="currentColor"
            strokeWidth="1.75"
            strokeLinecap="round"
          />
          <circle cx={dx} cy={dy} r="2" fill="currentColor" />
        </>
      )}
    </svg>
  );
}
