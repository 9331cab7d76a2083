import type { Edit } from '../../core/answers';
import { useState } from 'react';
import { alignments, startPicking } from '../../commands/placing';
import { spaceOf } from '../../acts/edits';
import { session } from '../../acts/session';
import { get, useStore, type SpaceKind } from '../../state/store';

import { KeepRow, usePreview } from './preview';

type Place = 'min' | 'middle' | 'max' | 'pivot';
type Picked = { from: Place; to: Place } | null;

const places: { place: Place; word: string; drawn: number }[] = [
  { place: 'min', word: 'low', drawn: 0 },
  { place: 'middle', word: 'middle', drawn: 1 },
  { place: 'max', word: 'high', drawn: 2 },
  { place: 'pivot', word: 'pivot', drawn: 3 },
];
const letters = ['x', 'y', 'z'] as const;
const spaces: { kind: SpaceKind; word: string }[] = [
  { kind: 'world', word: "the world's axes" },
  { kind: 'own', word: "the target's own" },
  { kind: 'parent', word: "the target's parent's" },
  { kind: 'view', word: "the view's" },
];

/** Puts things in line with another. */
export function AlignPart() {
  const selection = useStore((s) => s.selection);
  const chosenTo = useStore((s) => s.alignTo);
  const target = useStore((s) => s.byId.get(s.alignTo ?? (s.selection.length > 1 ? s.selection.at(-1)! : '')));
  const [choice, setChoice] = useState<Picked[]>([null, null, null]);
  const [space, setSpace] = useState<SpaceKind>('world');
  const [block, setBlock] = useState(false);
  const [rotation, setRotation] = useState(false);
  const [scale, setScale] = useState(false);
  const nodes = chosenTo ? selection.filter((id) => id !== chosenTo) : selection.slice(0, -1);
  const axes = Object.fromEntries(letters.flatMap((letter, i) => (choice[i] ? [[letter, choice[i]]] : [])));
  const any = Object.keys(axes).length > 0 || rotation || scale;
  const edit: Edit | null =
    target && any && nodes.length > 0
      ? {
          do: 'align',
          nodes,
          to: target.id,
          axes,
          space: spaceOf(space, get(), () => session.picture?.viewWorld() ?? []),
          as: block ? 'block' : 'each',
          rotation,
          scale,
        }
      : null;
  usePreview(edit);
  // A preset is shown first, as all else here is.
  const preset = (axes: Partial<Record<'x' | 'y' | 'z', { from: Place; to: Place }>>) => {
    setChoice(letters.map((letter) => axes[letter] ?? null));
    setSpace('world');
  };
  const clear = () => {
    setChoice([null, null, null]);
    setRotation(false);
    setScale(false);
  };
  return (
    <div>
      <div className="flex items-center justify-between gap-2">
        <span>
          to <b className="font-semibold">{target?.name ?? 'nothing yet'}</b>
        </span>
        <button type="button" className="btn" onClick={() => startPicking('alignTo')}>
          Press another…
        </button>
      </div>
      {selection.length > 1 && !chosenTo && (
        <div className="mt-2 flex flex-wrap gap-1">
          {alignments.map((a) => (
            <button key={a.id} type="button" className="btn" title={a.says} onClick={() => preset(a.axes)}>
              {{ onTop: 'On top', beside: 'Beside', height: 'Same height', middle: 'Centred', pivots: 'Pivots' }[a.id]}
            </button>
          ))}
        </div>
      )}
      <p className="m-0 mt-2 mb-1 text-ink-2">Its … to the target’s …</p>
      {letters.map((letter, i) => (
        <AxisChoice
          key={letter}
          letter={letter}
          choice={choice[i]!}
          choose={(c) => setChoice(choice.map((old, k) => (k === i ? c : old)))}
        />
      ))}
      <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1">
        <label className="flex items-center gap-1">
          along{' '}
          <select className="field w-auto" value={space} onChange={(e) => setSpace(e.target.value as SpaceKind)}>
            {spaces.map((s) => (
              <option key={s.kind} value={s.kind}>
                {s.word}
              </option>
            ))}
          </select>
        </label>
        <Tick word="turn like it" on={rotation} flip={setRotation} />
        <Tick word="size like it" on={scale} flip={setScale} />
        {nodes.length > 1 && <Tick word="as one block" on={block} flip={setBlock} />}
      </div>
      <KeepRow edit={edit} what="Align" done={clear} />
    </div>
  );
}

/** Two small bars with four stops each: where on the mover, and where on the target. */
function AxisChoice({ letter, choice, choose }: { letter: string; choice: Picked; choose: (c: Picked) => void }) {
  const bar = (which: 'from' | 'to', word: string) => (
    <div role="radiogroup" aria-label={`${letter.toUpperCase()}, ${word}`} className="flex flex-1 gap-px">
      {places.map(({ place, word: says }) => {
        const on = choice?.[which] === place;
        return (
          <button
            key={place}
            type="button"
            role="radio"
            aria-checked={on}
            aria-label={says}
            title={says}
            className={`h-6 flex-1 border border-line text-[10px] first:rounded-l last:rounded-r ${on ? 'bg-plum text-on-plum' : 'hover:bg-wash'}`}
            onClick={() => choose(on ? null : { from: place, to: place, ...choice, [which]: place })}
          >
            {place === 'pivot' ? 'pivot' : place === 'middle' ? 'mid' : says}
          </button>
        );
      })}
    </div>
  );
  return (
    <div className="mb-1 flex items-center gap-2">
      <b className={`w-3 font-bold ${{ x: 'text-x', y: 'text-y', z: 'text-z' }[letter]}`}>{letter.toUpperCase()}</b>
      {bar('from', 'of what moves')}
      <span aria-hidden>→</span>
      {bar('to', 'of the target')}
    </div>
  );
}

function Tick({ word, on, flip }: { word: string; on: boolean; flip: (on: boolean) => void }) {
  return (
    <label className="flex min-h-6 items-center gap-1.5">
      <input type="checkbox" checked={on} onChange={(e) => flip(e.target.checked)} /> {word}
    </label>
  );
}
