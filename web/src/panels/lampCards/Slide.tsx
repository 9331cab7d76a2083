import { Slider } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { session } from '../../acts/session';

/** A number on a line: shown while it is dragged, kept when it is let go; Esc puts it back. */
export function Slide(props: {
  label: string;
  value: number;
  from: number;
  to: number;
  step: number;
  shown: string;
  disabled?: boolean;
  /** This shot has it of its own. */
  own?: boolean;
  attempt: (value: number) => void;
  keep: (value: number) => void;
}) {
  const { label, value, from, to, step, shown, disabled, own, attempt, keep } = props;
  const [held, setHeld] = useState<number | null>(null);
  const asked = useRef(0);
  /** By keys a value is kept before it is told to have changed. */
  const done = useRef<number | null>(null);
  useEffect(() => () => cancelAnimationFrame(asked.current), []);
  const at = held ?? Math.min(to, Math.max(from, value));
  return (
    <span className="flex min-w-0 items-center gap-1">
      <Slider.Root
        className="relative flex h-5 min-w-0 flex-1 touch-none items-center data-[disabled]:opacity-50"
        value={[at]}
        min={from}
        max={to}
        step={step}
        disabled={disabled === true}
        onPointerDown={() => (done.current = null)}
        onValueChange={([v]) => {
          if (v === done.current) return;
          setHeld(v!);
          // It moves more often than pictures are drawn.
          cancelAnimationFrame(asked.current);
          asked.current = requestAnimationFrame(() => attempt(v!));
        }}
        onValueCommit={([v]) => {
          cancelAnimationFrame(asked.current);
          done.current = v!;
          setHeld(null);
          if (v !== Math.min(to, Math.max(from, value))) keep(v!);
          else session.putBack();
        }}
        onKeyDown={(e) => {
          if (e.key !== 'Escape' || held === null) return;
          e.preventDefault();
          cancelAnimationFrame(asked.current);
          setHeld(null);
          session.putBack();
        }}
      >
        <Slider.Track className="relative h-[3px] w-full rounded bg-edge">
          <Slider.Range className={`absolute h-full rounded ${own ? 'bg-plum' : 'bg-ink-2'}`} />
        </Slider.Track>
        <Slider.Thumb
          className="block h-3.5 w-3.5 rounded-full border border-ink-2 bg-paper outline-none focus-visible:border-plum focus-visible:ring-2 focus-visible:ring-plum"
          aria-label={label}
          title={label}
        />
      </Slider.Root>
      {shown !== '' && <span className="w-[30px] shrink-0 text-right font-mono text-[10.5px]">{shown}</span>}
    </span>
  );
}
