import { useEffect, useRef, useState } from 'react';
import { whileDragged } from '../acts/dragging';
import { session } from '../acts/session';
import { get, useStore } from '../state/store';

/** The amount of the sentence: reads along while a handle is dragged; typed numbers are tried at once, Enter keeps them. */
export function Amount() {
  const reading = useStore((s) => s.reading);
  const verb = useStore((s) => s.verb);
  const selection = useStore((s) => s.selection);
  const [text, show] = useState<string | null>(null);
  // Enter keeps and gives the focus up before the next drawing: what is typed is asked of here.
  const typed = useRef<string | null>(null);
  const setText = (now: string | null) => {
    typed.current = now;
    show(now);
  };
  const input = useRef<HTMLInputElement>(null);
  // Several axes at once need more room; one amount never changes the field's width.
  const wide = (text ?? reading?.amount ?? '').length > 13;
  const rest = verb === 'rotate' ? '0°' : verb === 'scale' ? '× 1' : `0 ${get().scene?.unit ?? 'm'}`;

  // While a handle is dragged, the amount is written at every picture.
  useEffect(
    () =>
      whileDragged((tried) => {
        if (input.current && typed.current === null) input.current.value = tried?.reading.amount ?? '';
      }),
    [],
  );

  // A new selection or verb ends what was being typed.
  useEffect(() => setText(null), [verb, selection]);

  /** Keeps what is typed; false where nothing is, or it cannot be done. */
  const keep = () => {
    const now = typed.current;
    if (now === null || now.trim() === '' || !session.tryText(now)) return false;
    setText(null);
    session.keepTrial();
    return true;
  };

  return (
    <input
      ref={input}
      data-amount
      className={`h-8 rounded-lg border bg-paper px-2 text-center font-mono font-bold text-ink-1 select-text focus:outline-2 focus:outline-plum ${wide ? 'w-44 text-[11px]' : 'w-28 text-[13px]'} ${reading ? 'border-plum' : 'border-edge'}`}
      aria-label="Amount"
      placeholder={rest}
      disabled={selection.length === 0}
      value={text ?? reading?.amount ?? ''}
      onChange={(e) => {
        setText(e.target.value);
        if (e.target.value.trim() === '') session.putBack();
        else session.tryText(e.target.value);
      }}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') {
          if (keep()) leave(input.current);
        } else if (e.key === 'Escape') {
          setText(null);
          session.putBack();
          session.say(null);
          leave(input.current);
        }
      }}
      // As in the fields of the panels: what is typed is kept when the focus goes on.
      onBlur={() => {
        if (typed.current === null || keep()) return;
        setText(null);
        const { notice } = get();
        session.putBack();
        session.say(notice);
      }}
    />
  );
}

function leave(input: HTMLInputElement | null): void {
  input?.blur();
  document.querySelector<HTMLElement>('[data-stage]')?.focus();
}
