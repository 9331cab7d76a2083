import { useState } from 'react';
import { isRefusal } from '../core/bridge';
import { session } from '../state/session';

/**
 * A number as it is stored. What is typed is understood by the core: 5 and -5 set; +5, by 5, *2, /3 change; units and
 * expressions everywhere. After Enter the field shows the outcome and is ready for the next.
 */
export function NumberField(props: {
  label: string;
  value: number;
  quantity: 'length' | 'angle' | 'factor' | 'count';
  shown: (value: number) => string;
  keep: (value: number) => boolean;
  accent?: string;
  disabled?: boolean;
}) {
  const { label, value, quantity, shown, keep, accent } = props;
  const [text, setText] = useState<string | null>(null);

  const enter = (): boolean => {
    if (text === null) return true;
    const kind = quantity === 'count' ? 'factor' : quantity;
    const understood = session.core.understand(text, kind, true, value);
    if (isRefusal(understood)) {
      session.say({ kind: 'refusal', text: understood.detail });
      return false;
    }
    const kept = keep(quantity === 'count' ? Math.round(understood.value) : understood.value);
    if (kept) setText(null);
    return kept;
  };

  return (
    <input
      className="field"
      style={accent ? { borderLeft: `3px solid ${accent}` } : undefined}
      aria-label={label}
      value={text ?? shown(value)}
      title={String(value)}
      disabled={props.disabled}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setText(e.target.value)}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') {
          if (enter()) requestAnimationFrame(() => (e.target as HTMLInputElement).select());
        } else if (e.key === 'Escape') {
          setText(null);
          session.say(null);
          (e.target as HTMLInputElement).blur();
        }
      }}
      onBlur={() => {
        if (text !== null && !enter()) setText(null);
      }}
    />
  );
}
