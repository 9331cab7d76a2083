import { Slider } from 'radix-ui';
import { session } from '../../acts/session';
import { useSliding } from '../../controls/sliding';

/** A number on a line. */
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
  const { at, slider } = useSliding({
    value: Math.min(to, Math.max(from, value)),
    attempt,
    keep,
    putBack: () => session.putBack(),
  });
  return (
    <span className="flex min-w-0 items-center gap-1">
      <Slider.Root
        {...slider}
        className="relative flex h-5 min-w-0 flex-1 touch-none items-center data-[disabled]:opacity-50"
        value={[at]}
        min={from}
        max={to}
        step={step}
        disabled={disabled === true}
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
