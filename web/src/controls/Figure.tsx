import type { Edit } from '../core/answers';
import { session } from '../acts/session';
import { get } from '../state/store';
import { NumberField, ScrubLabel, type Quantity } from './NumberField';

/** How an amount acts on the value of each of the picked. */
export type Mode = 'set' | 'add' | 'multiply';

interface FigureProps {
  word: string;
  /** Null where several objects differ. */
  value: number | null;
  quantity: Quantity;
  unit?: string;
  shown: (value: number) => string;
  /** The edit that sets the value, or changes each by an amount. */
  edit: (value: number, mode: Mode) => Edit;
  /** Shown instead of a value that stands for none. */
  none?: string;
  /** Takes forms of its own that are typed; null: it is a number. */
  takes?: (text: string) => Edit | null;
  /** The channel by which shots may have it of their own. */
  channel?: string;
  /** It is of one thing, whatever is picked. */
  alone?: boolean;
  children?: React.ReactNode;
}

/**
 * A named number of all that is picked: scrubbed by its word, typed, stepped by arrow keys. Of several that differ each is
 * changed by itself.
 */
export function Figure({
  word,
  value,
  quantity,
  unit,
  shown,
  edit,
  none,
  takes,
  channel,
  alone,
  children,
}: FigureProps) {
  const several = !alone && get().selection.length > 1;
  const scrubbed = (to: number, by: number) => (several ? edit(by, 'add') : edit(to, 'set'));
  return (
    <>
      <span className="flex items-baseline gap-1">
        <ScrubLabel
          word={word}
          title={`Drag to change ${word.toLowerCase()}`}
          quantity={quantity}
          value={value}
          attempt={(to, by) => session.preview([scrubbed(to, by)])}
          keep={(to, by) => session.keep(scrubbed(to, by))}
          press={() => undefined}
        />
        {unit && <span className="font-mono text-[11px] text-ink-3">{unit}</span>}
      </span>
      <span className="flex min-w-0 items-center gap-1">
        <NumberField
          label={word}
          value={value}
          quantity={quantity}
          shown={(v) => (v === 0 && none ? none : shown(v))}
          keep={(v) => session.keep(edit(v, 'set'))}
          change={(mode, amount) => session.keep(edit(amount, mode))}
          {...(none === undefined ? {} : { none })}
          {...(takes === undefined
            ? {}
            : {
                takes: (text) => {
                  const taken = takes(text);
                  return taken === null ? null : session.keep(taken);
                },
              })}
          {...(channel === undefined ? {} : { channel })}
        />
        {children}
      </span>
    </>
  );
}
