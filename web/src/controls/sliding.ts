import { useEffect, useRef, useState, type KeyboardEvent } from 'react';

/** A row of key presses is over after so many milliseconds. */
const rest = 600;

/**
 * A value on a line: shown while it is dragged or stepped along by keys, kept once: when it is let go, or when a row of key presses is over. Esc puts it
 * back, Enter keeps it at once.
 */
export function useSliding(props: {
  value: number;
  attempt: (value: number) => void;
  keep: (value: number) => void;
  putBack: () => void;
}) {
  const [held, setHeld] = useState<number | null>(null);
  const now = useRef(props);
  now.current = props;
  /** What it was when it was taken hold of; while it is tried, the panel shows what is tried. */
  const stored = useRef(props.value);
  if (held === null) stored.current = props.value;
  const byKeys = useRef(false);
  const asked = useRef(0);
  const pending = useRef<{ value: number; timer: ReturnType<typeof setTimeout> } | null>(null);

  const end = () => {
    clearTimeout(pending.current?.timer);
    pending.current = null;
    cancelAnimationFrame(asked.current);
    setHeld(null);
  };
  const keep = (value: number) => {
    end();
    now.current.putBack();
    if (value !== stored.current) now.current.keep(value);
  };
  const keepPending = () => pending.current && keep(pending.current.value);
  const flush = useRef(keepPending);
  flush.current = keepPending;
  useEffect(() => () => void flush.current(), []);

  return {
    at: held ?? props.value,
    slider: {
      onPointerDown: () => {
        keepPending();
        byKeys.current = false;
      },
      onValueChange: ([value]: number[]) => {
        setHeld(value!);
        // It moves more often than pictures are drawn.
        cancelAnimationFrame(asked.current);
        asked.current = requestAnimationFrame(() => now.current.attempt(value!));
      },
      onValueCommit: ([value]: number[]) => {
        if (!byKeys.current) {
          keep(value!);
          return;
        }
        clearTimeout(pending.current?.timer);
        pending.current = { value: value!, timer: setTimeout(() => flush.current(), rest) };
      },
      onKeyDownCapture: (e: KeyboardEvent) => {
        if (e.key === 'Escape' && held !== null) {
          e.preventDefault();
          e.stopPropagation();
          end();
          now.current.putBack();
        } else if (e.key === 'Enter') keepPending();
        else byKeys.current = true;
      },
      onBlur: () => void keepPending(),
    },
  };
}
