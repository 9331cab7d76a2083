import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { isRefusal, type Tried } from '../core/answers';
import { begin } from '../acts/doing';
import { whileDragged } from '../acts/dragging';
import { session } from '../acts/session';
import { get } from '../state/store';
import { CheatCorner } from './CheatCorner';

export type Quantity = 'length' | 'angle' | 'factor' | 'count';

interface FieldProps {
  label: string;
  /** Null where several objects differ. */
  value: number | null;
  quantity: Quantity;
  shown: (value: number) => string;
  keep: (value: number) => boolean;
  /** What is shown where there is none, of which the value is zero; typed, or with nothing typed, it is none again. */
  none?: string;
  /** Takes forms of its own that are typed, and says whether they were kept; null: it is a number. */
  takes?: (text: string) => boolean | null;
  /** Changes each of the picked by itself; where it is missing, the value that comes of it is kept. */
  change?: (mode: 'add' | 'multiply', amount: number) => boolean;
  accent?: string;
  /** With less room inside, where a letter stands before it. */
  narrow?: boolean;
  disabled?: boolean;
  /** The channel by which shots may have it of their own. */
  channel?: string;
  /** What it shows at each picture of a drag; null: nothing new. */
  dragged?: (tried: Tried) => number | null;
}

/** How much one arrow key or one pixel of scrubbing changes. */
const fine: Record<Quantity, number> = { length: 0.01, angle: 1, factor: 0.01, count: 1 };

/**
 * A number as it is stored. What is typed is understood by the core: 5 and -5 set; +5, by 5, *2, /3 change; units and
 * expressions everywhere. After Enter the field shows the outcome and is ready for the next. Arrow keys change it, with Shift
 * ten times, with Ctrl a tenth.
 */
export function NumberField(props: FieldProps) {
  const { label, value, quantity, shown, keep, accent } = props;
  const [text, setText] = useState<string | null>(null);

  const input = useRef<HTMLInputElement>(null);
  const live = useRef(props);
  live.current = props;
  const follows = props.dragged !== undefined;
  useEffect(() => {
    if (!follows) return;
    return whileDragged((tried) => {
      if (!input.current || document.activeElement === input.current) return;
      const now = tried ? (live.current.dragged?.(tried) ?? null) : live.current.value;
      const text = now === null ? null : live.current.shown(now);
      if (text !== null && input.current.value !== text) input.current.value = text;
    });
  }, [follows]);

  const kind = quantity === 'count' ? 'factor' : quantity;

  const enter = (): boolean => {
    if (text === null) return true;
    const taken = props.takes?.(text) ?? null;
    if (taken !== null) {
      if (taken) setText(null);
      return taken;
    }
    const { none } = props;
    if (none !== undefined && ['', none.toLowerCase()].includes(text.trim().toLowerCase())) {
      if (value === 0 || keep(0)) setText(null);
      return true;
    }
    if (text.trim() === '') {
      // An emptied field shows again what is stored.
      setText(null);
      return true;
    }
    const understood = session.core.understand(text, kind, true, value ?? 0);
    if (isRefusal(understood)) {
      session.say({ kind: 'refusal', text: understood.detail });
      return false;
    }
    const kept =
      understood.mode !== 'set' && props.change
        ? props.change(understood.mode, understood.amount)
        : keep(quantity === 'count' ? Math.round(understood.value) : understood.value);
    if (kept) setText(null);
    return kept;
  };

  const field = (
    <input
      ref={input}
      className={`field ${props.narrow ? 'px-1' : ''}`}
      style={accent ? { borderLeft: `3px solid ${accent}` } : undefined}
      aria-label={label}
      value={text ?? (value === null ? '' : shown(value))}
      placeholder={value === null ? 'mixed' : undefined}
      title={value === null ? 'They differ: a number sets all, +1 or *2 changes each' : String(value)}
      disabled={props.disabled}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setText(e.target.value)}
      onKeyDown={(e) => {
        e.stopPropagation();
        const way = { ArrowUp: 1, ArrowDown: -1 }[e.key];
        if (e.key === 'Enter') {
          if (enter()) requestAnimationFrame(() => (e.target as HTMLInputElement).select());
        } else if (e.key === 'Escape') {
          setText(null);
          session.say(null);
          (e.target as HTMLInputElement).blur();
        } else if (way !== undefined && (value !== null || props.change)) {
          e.preventDefault();
          const step = way * fine[quantity] * (e.shiftKey ? 10 : e.ctrlKey || e.metaKey ? 0.1 : 1);
          setText(null);
          if (props.change && get().selection.length > 1) props.change('add', step);
          else if (value !== null) keep(rounded(value + step));
        }
      }}
      onBlur={() => {
        if (text !== null && !enter()) setText(null);
      }}
    />
  );
  if (props.channel === undefined) return field;
  return (
    <span className="relative flex min-w-0 flex-1">
      {field}
      <CheatCorner channel={props.channel} />
    </span>
  );
}

/** Sums of steps are not to end in a row of nines. */
function rounded(value: number): number {
  return Number(value.toPrecision(12));
}

/**
 * A label over which a value is scrubbed: dragged sideways, it changes; Shift ten times as much, Ctrl a tenth. A press without a
 * drag does what the label says.
 */
export function ScrubLabel(props: {
  word: string;
  title: string;
  className?: string;
  quantity: Quantity;
  /** Null where several objects differ; each is changed by itself then. */
  value: number | null;
  /** Shows what a change by some amount would lead to, without keeping it. */
  attempt: (value: number, by: number) => void;
  keep: (value: number, by: number) => boolean;
  press: () => void;
}) {
  const held = useRef<{ x: number; value: number; moved: boolean; ended: () => void } | null>(null);
  const at = (e: PointerEvent): [number, number] => {
    const h = held.current!;
    const step = fine[props.quantity] * (e.shiftKey ? 10 : e.ctrlKey || e.metaKey ? 0.1 : 1);
    const by = rounded(Math.round((e.clientX - h.x) / 2) * step);
    return [rounded(h.value + by), by];
  };
  const putBack = () => {
    const h = held.current;
    if (!h) return;
    h.ended();
    held.current = null;
    if (h.moved) session.preview([]);
  };
  return (
    <button
      type="button"
      className={`cursor-ew-resize touch-none rounded text-left text-ink-2 hover:text-plum ${props.className ?? ''}`}
      title={props.title}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        held.current = { x: e.clientX, value: props.value ?? 0, moved: false, ended: begin(putBack) };
      }}
      onPointerMove={(e) => {
        const h = held.current;
        if (!h || (!h.moved && Math.abs(e.clientX - h.x) < 3)) return;
        h.moved = true;
        props.attempt(...at(e));
      }}
      onPointerUp={(e) => {
        const h = held.current;
        if (!h) return;
        h.ended();
        const change = at(e);
        held.current = null;
        if (h.moved) props.keep(...change);
        else props.press();
      }}
      onLostPointerCapture={putBack}
      onPointerCancel={putBack}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' && e.key !== ' ') return;
        e.preventDefault();
        props.press();
      }}
    >
      {props.word}
    </button>
  );
}
