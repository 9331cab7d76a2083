import { begin } from '../acts/doing';

/** The line between two panels: dragged, or moved with the arrow keys. */
export function Splitter(props: {
  label: string;
  value: number;
  from: number;
  to: number;
  side: 1 | -1;
  change: (width: number) => void;
  done: (width: number) => void;
}) {
  const { label, value, from, to, side, change, done } = props;
  const fit = (width: number) => Math.max(from, Math.min(to, Math.round(width)));
  return (
    <div
      role="separator"
      aria-orientation="vertical"
      aria-label={label}
      aria-valuenow={value}
      aria-valuemin={from}
      aria-valuemax={to}
      tabIndex={0}
      className="relative w-px shrink-0 cursor-col-resize bg-line outline-none z-10 after:absolute after:inset-y-0 after:-left-[5px] after:w-[11px] focus-visible:bg-plum"
      onPointerDown={(e) => {
        const [start, width] = [e.clientX, value];
        const line = e.currentTarget;
        line.setPointerCapture(e.pointerId);
        const at = (m: PointerEvent) => fit(width + (m.clientX - start) * side);
        const finish = (w: number) => {
          line.onpointermove = line.onpointerup = line.onlostpointercapture = null;
          ended();
          done(w);
        };
        const ended = begin(() => finish(width));
        line.onpointermove = (m) => change(at(m));
        line.onpointerup = (m) => finish(at(m));
        line.onlostpointercapture = (m) => finish(at(m));
      }}
      onKeyDown={(e) => {
        const way = { ArrowLeft: -8, ArrowRight: 8 }[e.key];
        if (way === undefined) return;
        e.preventDefault();
        done(fit(value + way * side));
      }}
    />
  );
}
