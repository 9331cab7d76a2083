import { session } from '../acts/session';
import { length } from '../controls/numbers';
import { settingsOf, type Aids } from '../state/settings';
import { get, useStore } from '../state/store';
import type { CameraReading } from '../wire/bridgeTypes';
import { useFrames } from '../state/frames';
import type { View } from './view';

interface Rect {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Looking through a camera is unmistakable: the final picture's frame, the rest dimmed, the aids that were chosen, and what is to be known of it. */
export function CameraFrame({ view }: { view: View }) {
  const { camera, steering, exact } = useStore((s) => s.views[view.index]!);
  const name = useStore((s) => (camera === null ? null : s.byId.get(camera)?.name));
  const lead = useStore((s) => s.selection.at(-1) ?? null);
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  useStore((s) => s.shots);
  const { aids } = settingsOf(useStore((s) => s.settings));
  // The frame changes with the lens and with the view's size.
  useFrames((s) => (camera === null ? 0 : s.drawn));
  const frame = view.eye.frame();
  if (camera === null || !frame) return null;
  const { width, height } = view.rect;
  const { x, y } = frame;
  const hole = `M0 0H${width}V${height}H0Z M${x} ${y}V${y + frame.height}H${x + frame.width}V${y}Z`;
  const about = exact ? null : readOf(view, camera, lead);
  const words = about && [
    about.usedBy.length > 0 ? `used by ${few(about.usedBy)}` : 'used by no shot',
    ...(about.leadName !== null && about.distance !== null
      ? [
          `${about.leadName} ${length(about.distance, unit)} ${unit} away, ${length(about.depth ?? 0, unit)} ${unit} deep`,
        ]
      : []),
    ...(about.roll !== null && !about.isLevel ? [`tipped ${Math.abs(about.roll).toFixed(1)}°`] : []),
  ];
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden data-camera-frame>
        {exact ? (
          <path d={hole} fill="var(--plaster)" />
        ) : (
          aids.dim && <path d={hole} fill="var(--ink-1)" opacity="0.38" />
        )}
        {!exact && <AidLines frame={frame} aids={aids} horizon={about && { left: about.left, right: about.right }} />}
        <rect
          x={x}
          y={y}
          width={frame.width}
          height={frame.height}
          fill="none"
          stroke={steering ? 'var(--warning)' : exact ? 'var(--ink-1)' : 'var(--paper)'}
          strokeWidth={steering ? 3 : exact ? 1 : 2}
        />
      </svg>
      {!exact && (
        <div
          className="pointer-events-none absolute flex h-[22px] items-center justify-between gap-3 bg-paper/90 px-2 text-[11.5px] text-ink-1"
          style={{ left: x, top: y + frame.height - 22, width: frame.width }}
          aria-hidden
        >
          <span className="min-w-0 truncate" data-camera-words>
            {words?.join(' · ')}
          </span>
          <span className={`shrink-0 font-semibold ${steering ? 'text-warning' : ''}`}>
            {steering ? `steering ${name}` : name}
          </span>
        </div>
      )}
    </>
  );
}

/** What was read last for each view, and when. */
const lately = new WeakMap<View, { key: string; at: number; about: CameraReading | null }>();
/** While something is tried it is read a few times a second: the thing measured to may be large. */
const often = 250;

function readOf(view: View, camera: string, lead: string | null): CameraReading | null {
  const key = `${session.changes} ${camera} ${lead} ${get().shots.length}`;
  const known = lately.get(view);
  const now = performance.now();
  if (known?.key === key && (!get().trying || now - known.at < often)) return known.about;
  const about = session.core.throughCamera(camera, lead);
  lately.set(view, { key, at: now, about });
  return about;
}

const few = (titles: string[]) =>
  titles.length > 3 ? `${titles.slice(0, 2).join(', ')} and ${titles.length - 2} more` : titles.join(', ');

/** How much of the picture is safe, as shares of its width and height. */
const [actionShare, titleShare] = [0.9, 0.8];

function AidLines(props: { frame: Rect; aids: Aids; horizon: { left: number | null; right: number | null } | null }) {
  const { frame, aids, horizon } = props;
  const [x, y, w, h] = [frame.x, frame.y, frame.width, frame.height];
  const lines: string[] = [];
  if (aids.thirds) {
    for (const third of [1 / 3, 2 / 3]) lines.push(`M${x + w * third} ${y}v${h}`, `M${x} ${y + h * third}h${w}`);
  }
  if (aids.cross) {
    const [cx, cy, arm] = [x + w / 2, y + h / 2, Math.min(w, h) / 14];
    lines.push(`M${cx - arm} ${cy}h${2 * arm}`, `M${cx} ${cy - arm}v${2 * arm}`);
  }
  return (
    <g fill="none" strokeWidth="1">
      {(['var(--ink-1)', 'var(--paper)'] as const).map((stroke, i) => (
        // A dark line beside the light one, so that both are seen on anything.
        <g
          key={stroke}
          stroke={stroke}
          opacity={i === 0 ? 0.45 : 0.9}
          transform={i === 0 ? 'translate(1 1)' : undefined}
        >
          <path d={lines.join('')} data-aid-lines={i === 1 ? '' : undefined} />
          {aids.safe &&
            [actionShare, titleShare].map((share) => (
              <rect
                key={share}
                x={x + (w * (1 - share)) / 2}
                y={y + (h * (1 - share)) / 2}
                width={w * share}
                height={h * share}
                strokeDasharray={share === titleShare ? '4 4' : undefined}
              />
            ))}
          {aids.horizon && horizon?.left != null && horizon.right != null && (
            <g data-horizon>
              <clipPath id={`picture-${i}`}>
                <rect x={x} y={y} width={w} height={h} />
              </clipPath>
              <path
                d={`M${x} ${y + h * (1 - horizon.left)}L${x + w} ${y + h * (1 - horizon.right)}`}
                strokeDasharray="10 3"
                clipPath={`url(#picture-${i})`}
              />
            </g>
          )}
        </g>
      ))}
      {aids.safe && (
        <g fill="var(--paper)" stroke="var(--ink-1)" strokeWidth="2.5" paintOrder="stroke" fontSize="10.5">
          <text x={x + (w * (1 - actionShare)) / 2 + 5} y={y + (h * (1 - actionShare)) / 2 + 13}>
            action
          </text>
          <text x={x + (w * (1 - titleShare)) / 2 + 5} y={y + (h * (1 - titleShare)) / 2 + 13}>
            titles
          </text>
        </g>
      )}
    </g>
  );
}
