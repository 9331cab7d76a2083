import { useEffect, useRef, useState } from 'react';

/** A colour: the browser's own picker on a swatch, and six figures beside it. Null where several objects differ. */
export function ColorField(props: {
  label: string;
  value: string | null;
  /** Shows it without keeping it, while it is looked for. */
  attempt: (color: string) => void;
  keep: (color: string) => boolean;
}) {
  const { label, value, keep } = props;
  const [text, setText] = useState<string | null>(null);
  const swatch = useRef<HTMLInputElement>(null);
  const live = useRef(props);
  live.current = props;
  // React hears of every move in the picker as a change; the browser's own event comes when it is closed.
  useEffect(() => {
    const input = swatch.current!;
    const kept = () => void live.current.keep(input.value.toUpperCase());
    input.addEventListener('change', kept);
    return () => input.removeEventListener('change', kept);
  }, []);
  const enter = () => {
    const given = text?.trim();
    setText(null);
    if (!given) return;
    const full = /^#?([0-9a-f]{6}|[0-9a-f]{3})$/i.exec(given)?.[1];
    const six = full?.length === 3 ? [...full].map((c) => c + c).join('') : full;
    // What is no colour is refused by the core, in its words.
    keep(six ? `#${six.toUpperCase()}` : given);
  };
  return (
    <span className="flex min-w-0 items-center gap-1">
      <input
        ref={swatch}
        type="color"
        className="h-7 w-9 shrink-0 cursor-pointer rounded-lg border border-edge bg-paper p-0.5"
        aria-label={label}
        value={(value ?? '#808080').toLowerCase()}
        onChange={(e) => props.attempt(e.target.value.toUpperCase())}
      />
      <input
        className="field text-left"
        aria-label={`${label}, figures`}
        value={text ?? value ?? ''}
        placeholder={value === null ? 'mixed' : undefined}
        maxLength={20}
        onFocus={(e) => e.target.select()}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') enter();
          else if (e.key === 'Escape') {
            setText(null);
            e.currentTarget.blur();
          }
        }}
        onBlur={enter}
      />
    </span>
  );
}
