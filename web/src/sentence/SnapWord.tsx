import { Popover } from 'radix-ui';
import { floating } from '../controls/floating';
import { hint as keyHint } from '../commands';
import { toggleSnap, toggleSnapKind } from '../commands/wording';
import { get, set, useStore, type Snap } from '../state/store';
import { snapWords } from '../acts/words';

const sources: { source: Snap['source']; word: string; means: string }[] = [
  { source: 'pivot', word: 'its pivot', means: 'Goes to the target' },
  { source: 'corner', word: 'a corner', means: 'The nearest corner of its bounds goes there' },
  { source: 'picked', word: 'a picked point', means: 'Press the point of it that is to go there' },
];

/** Whether, to what and with what a drag snaps. */
export function SnapWord() {
  const snap = useStore((s) => s.snap);
  const change = (part: Partial<Snap>) => set({ snap: { ...get().snap, ...part } });
  return (
    <span className="flex items-center gap-1.5">
      <span aria-hidden>·</span>
      <Popover.Root>
        <Popover.Trigger
          className="word"
          data-word="Snapping"
          aria-label={`Snapping: ${snap.on ? said(snap) : 'not snapping'}`}
        >
          {snap.on ? said(snap) : 'not snapping'}
        </Popover.Trigger>
        <Popover.Portal container={floating()}>
          <Popover.Content className="menu w-[22rem] p-3" side="top" align="start" sideOffset={8} collisionPadding={8}>
            <label className="flex min-h-6 items-center gap-2 font-semibold">
              <input type="checkbox" checked={snap.on} onChange={() => toggleSnap()} />
              Snap{keyHint('snap')}; the key held during a drag: not now
            </label>
            <fieldset className="m-0 mt-2 grid border-0 p-0">
              <legend className="mb-1 p-0 text-ink-2">to</legend>
              {snapWords.map(({ kind, word, means }) => (
                <label key={kind} className="flex min-h-6 items-center gap-2">
                  <input type="checkbox" checked={snap.kinds.includes(kind)} onChange={() => toggleSnapKind(kind)} />
                  <span className="whitespace-nowrap">{word}</span>
                  <span className="ml-auto text-right text-ink-2">{means}</span>
                </label>
              ))}
            </fieldset>
            <div role="radiogroup" aria-label="What snaps" className="mt-3 flex flex-wrap gap-1">
              {sources.map(({ source, word, means }) => (
                <button
                  key={source}
                  type="button"
                  role="radio"
                  aria-checked={snap.source === source}
                  title={means}
                  className={`btn ${snap.source === source ? 'border-plum bg-wash font-semibold text-plum' : ''}`}
                  onClick={() => {
                    change({ source, on: true });
                    if (source === 'picked') set({ picking: 'snapFrom' });
                  }}
                >
                  {word}
                </button>
              ))}
            </div>
            <label className="mt-3 flex min-h-6 items-center gap-2">
              <input type="checkbox" checked={snap.turn} onChange={(e) => change({ turn: e.target.checked })} />
              Turn its Y to the face that is caught
            </label>
            <label className="mt-1 flex items-center gap-2">
              Within
              <input
                type="range"
                min={6}
                max={40}
                value={snap.radius}
                aria-valuetext={`${snap.radius} pixels`}
                onChange={(e) => change({ radius: Number(e.target.value) })}
              />
              <span className="font-mono text-[11.5px]">{snap.radius} px</span>
            </label>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </span>
  );
}

function said(snap: Snap): string {
  const words = snapWords.filter((w) => snap.kinds.includes(w.kind)).map((w) => w.word);
  const to = words.length === 0 ? 'nothing' : words.length > 2 ? `${words.length} kinds of points` : words.join(', ');
  return `snapping to ${to}`;
}
