import { useState, type KeyboardEvent } from 'react';

/** A whole number between two others. What is typed counts as soon as it lies there; what is too small may still become larger. */
export function WholeNumber(props: {
  id?: string;
  label?: string;
  className?: string;
  value: number | null;
  least: number;
  most: number;
  /** Shown where there is none. */
  none?: string;
  choose: (value: number | null) => void;
  onKeyDown?: (e: KeyboardEvent) => void;
}) {
  const { id, label, className = 'field', value, least, most, none, choose, onKeyDown } = props;
  const [text, setText] = useState<string | null>(null);
  return (
    <input
      id={id}
      aria-label={label}
      className={className}
      type="number"
      min={least}
      max={most}
      placeholder={none}
      value={text ?? value ?? ''}
      onFocus={(e) => e.target.select()}
      onKeyDown={onKeyDown}
      onChange={(e) => {
        const typed = e.target.valueAsNumber;
        const fits = typed >= least;
        setText(fits ? null : e.target.value);
        if (fits) choose(Math.round(Math.min(most, typed)));
        else if (none !== undefined && e.target.value === '') choose(null);
      }}
      onBlur={() => {
        const typed = Number(text);
        setText(null);
        if (text !== null && text !== '' && typed < least) choose(least);
      }}
    />
  );
}
