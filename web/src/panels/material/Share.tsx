import type { MaterialFields } from '../../acts/materials';
import { NumberField, ScrubLabel } from '../../controls/NumberField';
import { factor } from '../../controls/numbers';

type NumberOf = 'roughness' | 'metalness' | 'opacity' | 'alphaCutoff' | 'emissiveStrength';

/** A number of a material between nothing and all: scrubbed by its word, drawn as a bar, typed. */
export function Share(props: {
  word: string;
  field: NumberOf;
  /** Null where several differ. */
  value: number | null;
  most?: number;
  attempt: (fields: MaterialFields) => void;
  keep: (fields: MaterialFields) => boolean;
}) {
  const { word, field, value, attempt, keep, most = 1 } = props;
  const within = (v: number) => Math.min(most, Math.max(0, v));
  // Of several that differ each is changed by as much.
  const by = (to: number, more: number): MaterialFields =>
    value === null ? { [field]: more, mode: 'add' } : { [field]: within(to) };
  return (
    <>
      <ScrubLabel
        word={word}
        title={`Drag to change ${word.toLowerCase()}`}
        quantity="factor"
        value={value}
        attempt={(to, more) => attempt(by(to, more))}
        keep={(to, more) => keep(by(to, more))}
        press={() => undefined}
      />
      <span className="flex min-w-0 items-center gap-2">
        <NumberField
          label={word}
          value={value}
          quantity="factor"
          shown={factor}
          keep={(v) => keep({ [field]: v })}
          change={(mode, amount) => keep({ [field]: amount, mode })}
        />
        {most === 1 && (
          <span aria-hidden className="h-1 w-14 shrink-0 overflow-hidden rounded bg-line">
            <span className="block h-full bg-plum" style={{ width: `${100 * (value ?? 0)}%` }} />
          </span>
        )}
      </span>
    </>
  );
}
