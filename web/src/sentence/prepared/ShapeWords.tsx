import type { ShapePatch } from '../../wire/apiTypes';
import { useState } from 'react';
import { isRefusal } from '../../core/answers';
import { length } from '../../controls/numbers';
import { session } from '../../acts/session';
import { useStore } from '../../state/store';
import { keepOrLeave } from './PlanParts';

type Parameters = ShapePatch;

const words: [name: Exclude<keyof Parameters, 'type' | 'size' | 'caps'>, word: string, count: boolean][] = [
  ['radius', 'radius', false],
  ['topRadius', 'top radius', false],
  ['height', 'height', false],
  ['tube', 'tube', false],
  ['inner', 'hole', false],
  ['segments', 'segments', true],
  ['rings', 'rings', true],
  ['sides', 'sides', true],
  ['divisions', 'divisions', true],
];

/** The sizes and counts of a shape that is added: "of 1 × 1 × 1 m", "of radius 0.5 m, 32 segments". Typed, and kept for the next. */
export function ShapeWords({ shape, change }: { shape: Parameters; change: (shape: Parameters) => void }) {
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  const { size } = shape;
  const own = words.filter(([name]) => typeof shape[name] === 'number');
  const lengths = own.filter(([, , count]) => !count);
  return (
    <span className="flex flex-wrap items-center gap-x-1.5">
      <span>of</span>
      {size?.map((value, i) => (
        <span key={i} className="flex items-center gap-1.5">
          {i > 0 && <span aria-hidden>×</span>}
          <Figure
            label={`Size ${size.length === 2 ? 'XZ'[i] : 'XYZ'[i]}`}
            value={value}
            change={(v) => change({ ...shape, size: size.map((s, k) => (k === i ? v : s)) })}
          />
        </span>
      ))}
      {own.map(([name, word, count], i) => (
        <span key={name} className="flex items-center gap-1.5">
          {!count && <span>{word}</span>}
          <Figure
            label={word}
            count={count}
            value={shape[name] as number}
            change={(v) => change({ ...shape, [name]: v })}
          />
          {count && <span>{word}</span>}
          {i === lengths.length - 1 && <span>{unit === 'units' ? '' : unit}</span>}
        </span>
      ))}
      {size && <span>{unit === 'units' ? '' : unit}</span>}
    </span>
  );
}

function Figure(props: { label: string; value: number; count?: boolean; change: (value: number) => void }) {
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  const [text, setText] = useState<string | null>(null);
  const shown = props.count ? String(props.value) : String(Number(length(props.value, unit)));
  const take = (typed: string) => {
    setText(typed);
    const understood = session.core.understand(typed, props.count ? 'factor' : 'length', true, props.value);
    if (!isRefusal(understood)) props.change(props.count ? Math.round(understood.value) : understood.value);
  };
  return (
    <input
      className="field w-12 px-1 text-center"
      aria-label={props.label}
      value={text ?? shown}
      onFocus={(e) => e.target.select()}
      onChange={(e) => take(e.target.value)}
      onBlur={() => setText(null)}
      onKeyDown={keepOrLeave}
    />
  );
}
