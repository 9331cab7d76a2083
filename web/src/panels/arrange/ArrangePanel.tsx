import type { Edit, Vec3 } from '../../core/answers';
import { useEffect, useState } from 'react';
import { alignments, alignToLead, mirror, startPicking } from '../../commands/placing';
import { spaceOf } from '../../acts/edits';
import { begin } from '../../acts/doing';
import { session } from '../../acts/session';
import { get, useStore, type SpaceKind } from '../../state/store';
import { Section } from '../../controls/Section';
import { Choice } from '../settingsDialog/SettingRows';

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

/** Puts things in order: align, spread, drop, mirror. What is chosen shows on the stage before it is kept. */
export function ArrangePanel() {
  const [open, setOpen] = useState<'align' | 'spread' | 'drop' | 'mirror' | null>(null);
  // Esc closes what is shown and not kept, with what was chosen for it.
  useEffect(() => (open === null ? undefined : begin(() => setOpen(null), false)), [open]);
  const tabs = ['align', 'spread', 'drop', 'mirror'] as const;
  return (
    <Section title="Arrange" remark={open ? 'seen on the stage before it is kept' : undefined}>
      <div role="tablist" aria-label="Arrange" className="mb-2 flex flex-wrap gap-1">
        {tabs.map((tab) => (
          <button
            key={tab}
            type="button"
            role="tab"
            aria-selected={open === tab}
            className={`btn ${open === tab ? 'border-plum bg-wash font-semibold text-plum' : ''}`}
            onClick={() => setOpen(open === tab ? null : tab)}
          >
            {tab[0]!.toUpperCase() + tab.slice(1)}
          </button>
        ))}
      </div>
      {open === 'align' && <AlignPart />}
      {open === 'spread' && <SpreadPart />}
      {open === 'drop' && <DropPart />}
      {open === 'mirror' && <MirrorPart />}
    </Section>
  );
}

/** Shows edits on the stage while they are chosen; leaves everything as it was when the part closes. */
function usePreview(edit: Edit | null): void {
  const key = edit ? JSON.stringify(edit) : '';
  const version = useStore((s) => s.rows);
  useEffect(() => {
    if (key === '') return;
    session.preview([JSON.parse(key) as Edit]);
    return () => void session.preview([]);
  }, [key, version]);
}

function KeepRow({ edit, what, done }: { edit: Edit | null; what: string; done?: () => void }) {
  return (
    <div className="mt-2 flex gap-1">
      <button
        type="button"
        className="btn border-plum bg-plum text-on-plum disabled:opacity-50"
        disabled={!edit}
        onClick={() => edit && session.keep(edit) && done?.()}
      >
        {what}
      </button>
    </div>
  );
}

function AlignPart() {
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
            <button key={a.id} type="button" className="btn" title={a.says} onClick={() => alignToLead(a.axes)}>
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

function SpreadPart() {
  const selection = useStore((s) => s.selection);
  const [along, setAlong] = useState<'x' | 'y' | 'z' | 'line'>('x');
  const [equal, setEqual] = useState<'gaps' | 'pivots'>('gaps');
  const [space, setSpace] = useState<SpaceKind>('world');
  const edit: Edit | null =
    selection.length >= session.core.limits.spread
      ? {
          do: 'spread',
          nodes: selection,
          along,
          equal,
          space: spaceOf(space, get(), () => session.picture?.viewWorld() ?? []),
        }
      : null;
  usePreview(edit);
  return (
    <div>
      {selection.length < session.core.limits.spread && (
        <p className="m-0 mb-2 text-ink-2">Pick three objects or more; the two ends stay.</p>
      )}
      <Few
        label="Along"
        value={along}
        choices={[
          ['x', 'X'],
          ['y', 'Y'],
          ['z', 'Z'],
          ['line', 'first to last'],
        ]}
        choose={setAlong}
      />
      <Few
        label="Equal"
        value={equal}
        choices={[
          ['gaps', 'equal gaps'],
          ['pivots', 'equal steps of pivots'],
        ]}
        choose={setEqual}
      />
      {along !== 'line' && (
        <Few
          label="Axes"
          value={space}
          choices={[
            ['world', "the world's"],
            ['lead', "the lead's"],
            ['view', "the view's"],
          ]}
          choose={setSpace}
        />
      )}
      <KeepRow edit={edit} what="Spread" />
    </div>
  );
}

function DropPart() {
  const selection = useStore((s) => s.selection);
  const [by, setBy] = useState<'lowest' | 'pivot'>('lowest');
  const [as, setAs] = useState<'each' | 'block'>('each');
  const [way, setWay] = useState<'down' | 'x' | '-x' | 'z' | '-z' | 'up'>('down');
  const ways: Record<typeof way, Vec3 | undefined> = {
    down: undefined,
    up: [0, 1, 0],
    x: [1, 0, 0],
    '-x': [-1, 0, 0],
    z: [0, 0, 1],
    '-z': [0, 0, -1],
  };
  const edit: Edit = { do: 'drop', nodes: selection, by, as, along: ways[way] };
  usePreview(edit);
  return (
    <div>
      <Few
        label="Direction"
        value={way}
        choices={[
          ['down', 'down'],
          ['up', 'up'],
          ['x', '+X'],
          ['-x', '−X'],
          ['z', '+Z'],
          ['-z', '−Z'],
        ]}
        choose={setWay}
      />
      <Few
        label="By"
        value={by}
        choices={[
          ['lowest', 'where it touches first'],
          ['pivot', 'by its pivot'],
        ]}
        choose={setBy}
      />
      {selection.length > 1 && (
        <Few
          label="As"
          value={as}
          choices={[
            ['each', 'one by one'],
            ['block', 'as one block'],
          ]}
          choose={setAs}
        />
      )}
      <KeepRow edit={edit} what="Drop" />
    </div>
  );
}

function MirrorPart() {
  const [axis, setAxis] = useState<'x' | 'y' | 'z'>('x');
  const [how, setHow] = useState<'mirror' | 'turn'>('mirror');
  const words = useStore((s) => JSON.stringify([s.selection, s.spaces[s.verb], s.abouts, s.picked]));
  void words;
  const edit = mirror(axis, how, false);
  usePreview(edit);
  return (
    <div>
      <p className="m-0 mb-2 text-ink-2">Across the sentence’s axes, about its point.</p>
      <Few
        label="Across"
        value={axis}
        choices={[
          ['x', 'X'],
          ['y', 'Y'],
          ['z', 'Z'],
        ]}
        choose={setAxis}
      />
      <Few
        label="How"
        value={how}
        choices={[
          ['mirror', 'a true mirror image'],
          ['turn', 'position and heading only'],
        ]}
        choose={setHow}
      />
      <KeepRow edit={edit} what="Mirror" />
    </div>
  );
}

function Few<T extends string>(props: {
  label: string;
  value: T;
  choices: [NoInfer<T>, string][];
  choose: (value: T) => void;
}) {
  const choices = props.choices.map(([value, word]) => ({ value, word }));
  return (
    <div className="mb-1.5">
      <Choice label={props.label} value={props.value} choices={choices} choose={props.choose} />
    </div>
  );
}
