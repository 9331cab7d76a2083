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
      className="relative w-px shrink-0 cursor-col-resize bg-line outline-none after:absolute after:inset-y-0 after:-left-1 after:w-2.5 focus-visible:bg-plum"
      onPointerDown={(e) => {
        const [start, width] = [e.clientX, value];
        const line = e.currentTarget;
        line.setPointerCapture(e.pointerId);
        const at = (m: PointerEvent) => fit(width + (m.clientX - start) * side);
        line.onpointermove = (m) => change(at(m));
        line.onpointerup = (m) => {
          line.onpointermove = line.onpointerup = null;
          done(at(m));
        };
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
