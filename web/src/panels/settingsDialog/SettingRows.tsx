import { Slider, Switch } from 'radix-ui';
import type { ReactNode } from 'react';

/** A setting: its name, and what it can be set to. */
export function Row({ says, children }: { says: string; children: ReactNode }) {
  return (
    <div className="flex min-h-9 items-center justify-between gap-4 py-1">
      <span>{says}</span>
      <div className="flex items-center gap-2">{children}</div>
    </div>
  );
}

/** One of a few. */
export function Choice<T extends string | number>(props: {
  label: string;
  value: T;
  choices: { value: T; word: string; means?: string }[];
  choose: (value: T) => void;
}) {
  return (
    <div role="radiogroup" aria-label={props.label} className="flex flex-wrap gap-1">
      {props.choices.map((c) => (
        <button
          key={c.value}
          type="button"
          role="radio"
          aria-checked={c.value === props.value}
          title={c.means}
          className={`btn ${c.value === props.value ? 'border-plum bg-wash font-semibold text-plum' : ''}`}
          onClick={() => props.choose(c.value)}
        >
          {c.word}
        </button>
      ))}
    </div>
  );
}

export function OnOff({ label, on, flip }: { label: string; on: boolean; flip: (on: boolean) => void }) {
  return (
    <Switch.Root
      checked={on}
      onCheckedChange={flip}
      aria-label={label}
      className="h-6 w-11 rounded-full border border-edge bg-plaster p-0.5 data-[state=checked]:border-plum data-[state=checked]:bg-plum"
    >
      <Switch.Thumb className="block h-[18px] w-[18px] rounded-full bg-ink-2 transition-transform data-[state=checked]:translate-x-5 data-[state=checked]:bg-on-plum" />
    </Switch.Root>
  );
}

export function Amount(props: {
  label: string;
  value: number;
  from: number;
  to: number;
  step: number;
  say: (value: number) => string;
  change: (value: number) => void;
}) {
  return (
    <>
      <Slider.Root
        value={[props.value]}
        min={props.from}
        max={props.to}
        step={props.step}
        onValueChange={([v]) => props.change(v!)}
        className="relative flex h-6 w-40 touch-none items-center"
      >
        <Slider.Track className="relative h-1 flex-1 rounded-full bg-line">
          <Slider.Range className="absolute h-full rounded-full bg-plum" />
        </Slider.Track>
        <Slider.Thumb aria-label={props.label} className="block h-4 w-4 rounded-full border-2 border-plum bg-paper" />
      </Slider.Root>
      <span className="w-12 text-right font-mono text-[11.5px] text-ink-2">{props.say(props.value)}</span>
    </>
  );
}
