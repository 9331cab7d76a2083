import { useStore } from '../state/store';
import { useFrames } from '../state/frames';
import type { View } from './view';

/** Looking through a camera is unmistakable: the final picture's frame, the rest dimmed, the camera's name. */
export function CameraFrame({ view }: { view: View }) {
  const camera = useStore((s) => s.views[view.index]!.camera);
  const steering = useStore((s) => s.views[view.index]!.steering);
  const name = useStore((s) => (camera === null ? null : s.byId.get(camera)?.name));
  // The frame changes with the lens and with the view's size.
  useFrames((s) => (camera === null ? 0 : s.drawn));
  const frame = view.eye.frame();
  if (camera === null || !frame) return null;
  const { width, height } = view.rect;
  const { x, y } = frame;
  const hole = `M0 0H${width}V${height}H0Z M${x} ${y}V${y + frame.height}H${x + frame.width}V${y}Z`;
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
      <path d={hole} fill="var(--ink-1)" opacity="0.38" />
      <rect
        x={x}
        y={y}
        width={frame.width}
        height={frame.height}
        fill="none"
        stroke={steering ? 'var(--warning)' : 'var(--paper)'}
        strokeWidth={steering ? 3 : 2}
      />
      <text
        x={x + frame.width - 10}
        y={y + frame.height - 12}
        textAnchor="end"
        fontSize="13"
        fontWeight="600"
        fill="var(--paper)"
        stroke="var(--ink-1)"
        strokeWidth="3"
        paintOrder="stroke"
      >
        {steering ? `steering ${name}` : name}
      </text>
    </svg>
  );
}
