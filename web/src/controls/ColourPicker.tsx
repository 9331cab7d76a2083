import { Popover } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { floating } from './floating';
import { later } from './later';
import { session } from '../acts/session';
import { cssOf, type Colour } from '../core/colour';

/** Fetched when a colour is first looked for. */
const Plane = later(() => import('react-colorful').then((m) => m.HexColorPicker), {
  meanwhile: <div className="h-[180px]" />,
});

/** A colour: a swatch that opens a picker with the scene's own colours below it, and six figures beside it. Null where several differ. */
export function ColourPicker<C extends Colour>(props: {
  label: string;
  value: C | string | null;
  /** Colours to choose from. */
  chips: C[];
  /** Shows it without keeping it, while it is looked for. */
  attempt: (colour: C | string) => void;
  keep: (colour: C | string) => boolean;
  /** Puts back what was shown. */
  leave: () => void;
  /** What is said where there is no colour. */
  none?: string;
  /** A small round swatch alone, without the figures. */
  small?: boolean;
}) {
  const { label, value, chips, attempt, keep, none = 'mixed', small = false } = props;
  const figures = value === null ? null : session.core.figuresOf(value);
  const [open, setOpen] = useState(false);
  const [text, setText] = useState<string | null>(null);
  /** What is shown and not kept yet. */
  const tried = useRef<string | null>(null);
  const asked = useRef(0);
  // The picker moves more often than pictures are drawn.
  const show = (colour: string) => {
    tried.current = colour.toUpperCase();
    cancelAnimationFrame(asked.current);
    asked.current = requestAnimationFrame(() => tried.current !== null && attempt(tried.current));
  };
  const settle = () => {
    cancelAnimationFrame(asked.current);
    const colour = tried.current;
    tried.current = null;
    if (colour !== null) keep(colour);
  };
  useEffect(() => () => cancelAnimationFrame(asked.current), []);
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
      <Popover.Root
        open={open}
        onOpenChange={(now) => {
          if (!now) settle();
          setOpen(now);
        }}
      >
        <Popover.Trigger
          className={small ? 'h-6 w-6 shrink-0 p-1' : 'h-7 w-9 shrink-0 rounded-lg border border-edge p-0.5'}
          aria-label={label}
          title={`${label}: ${figures ?? none}`}
        >
          <span
            className={`block h-full w-full ${small ? 'rounded-full border border-edge' : 'rounded-[5px]'}`}
            style={{
              background: value !== null ? cssOf(value) : 'repeating-linear-gradient(45deg,#0000 0 4px,#8886 4px 8px)',
            }}
          />
        </Popover.Trigger>
        <Popover.Portal container={floating()}>
          <Popover.Content
            className="menu w-[232px] p-3"
            side={small ? 'top' : 'left'}
            align="start"
            sideOffset={8}
            collisionPadding={8}
            aria-label={label}
            onKeyDown={(e) => {
              e.stopPropagation();
              if (e.key !== 'Escape') return;
              // What was looked at goes back.
              tried.current = null;
              props.leave();
            }}
          >
            <div onPointerUp={settle} onKeyUp={(e) => e.key.startsWith('Arrow') && settle()}>
              <Plane
                color={(figures ?? '#808080').toLowerCase()}
                onChange={show}
                style={{ width: '100%', height: 180 }}
              />
            </div>
            {chips.length > 0 && (
              <div role="group" aria-label="Colours of the scene" className="mt-2.5 flex flex-wrap gap-1">
                {chips.slice(0, 24).map((chip) => (
                  <button
                    key={cssOf(chip)}
                    type="button"
                    className={`h-6 w-6 rounded-md border ${value !== null && cssOf(chip) === cssOf(value) ? 'border-2 border-plum' : 'border-edge'}`}
                    style={{ background: cssOf(chip) }}
                    aria-label={session.core.figuresOf(chip)}
                    title={session.core.figuresOf(chip)}
                    onClick={() => {
                      tried.current = null;
                      keep(chip);
                    }}
                  />
                ))}
              </div>
            )}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      {!small && (
        <input
          className="field text-left"
          aria-label={`${label}, figures`}
          value={text ?? figures ?? ''}
          placeholder={value === null ? none : undefined}
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
      )}
    </span>
  );
}
