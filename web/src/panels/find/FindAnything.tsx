import { useVirtualizer } from '@tanstack/react-virtual';
import { Dialog } from 'radix-ui';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { get, set, useStore } from '../../state/store';
import { rememberFocus, returnFocus } from '../../acts/focus';
import { listSteps } from '../../acts/history';
import type { Stage } from '../../stage/stage';
import { Name } from '../../controls/Name';
import { best } from './match';
import { nodeThings, otherThings, recent, remember, type Thing } from './things';

const most = 400;

/** Find anything: commands, objects, selections, settings and steps by any part of their names. */
export function FindAnything({ stage }: { stage: () => Stage | null }) {
  const open = useStore((s) => s.open === 'find');
  return (
    <Dialog.Root modal={false} open={open} onOpenChange={(o) => !o && get().open === 'find' && set({ open: null })}>
      <Dialog.Portal>
        <Dialog.Content
          className="fixed top-[9vh] left-1/2 z-50 flex w-[640px] max-w-[94vw] -translate-x-1/2 flex-col overflow-hidden rounded-xl border border-line bg-paper shadow-float"
          aria-describedby={undefined}
          data-catches-keys
          onOpenAutoFocus={rememberFocus}
          onCloseAutoFocus={(e) => {
            e.preventDefault();
            returnFocus();
          }}
        >
          <Dialog.Title className="sr-only">Find anything</Dialog.Title>
          {open && <Palette stage={stage} />}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Palette({ stage }: { stage: () => Stage | null }) {
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useStore((s) => s.rows);
  const steps = useStore((s) => s.steps);
  useEffect(() => void listSteps(), []);
  // The state is asked once, when it opens; only steps come a moment later.
  const others = useMemo(() => otherThings(get()), [steps]);
  const found = useMemo(() => find(text.trim().toLowerCase(), others, nodeThings(rows)), [text, others, rows]);
  const list = useVirtualizer({
    count: found.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 30,
    overscan: 6,
  });

  const act = (thing: Thing | undefined, frame: boolean) => {
    const now = stage();
    if (!thing || !now) return;
    remember(thing.id);
    set({ open: null });
    // After the palette has given the focus back.
    setTimeout(() => (frame && thing.frame ? thing.frame : thing.act)(now));
  };
  const go = (to: number) => {
    const next = Math.max(0, Math.min(found.length - 1, to));
    setAt(next);
    list.scrollToIndex(next);
  };
  const keyed = (e: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 }[e.key];
    if (step !== undefined) go(at + step);
    else if (e.key === 'Enter') act(found[at], e.shiftKey);
    else return;
    e.preventDefault();
  };

  return (
    <>
      <input
        autoFocus
        role="combobox"
        aria-expanded="true"
        aria-controls="found"
        aria-label="Find anything"
        aria-activedescendant={found[at] ? `found-${at}` : undefined}
        className="h-12 border-b border-line bg-paper px-4 text-[15px] text-ink-1 outline-none select-text"
        placeholder="Commands, objects, selections, settings, steps"
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setAt(0);
          list.scrollToIndex(0);
        }}
        onKeyDown={keyed}
      />
      <div
        ref={scroller}
        id="found"
        role="listbox"
        aria-label="Found"
        tabIndex={-1}
        className="h-[min(420px,60vh)] overflow-auto p-1.5"
      >
        {found.length === 0 && <p className="m-3 text-ink-2">Nothing is called “{text}”. Try a part of the name.</p>}
        <div role="presentation" className="relative" style={{ height: list.getTotalSize() }}>
          {list.getVirtualItems().map(({ index, start }) => {
            const thing = found[index]!;
            return (
              <div
                key={thing.id}
                id={`found-${index}`}
                role="option"
                aria-selected={index === at}
                className={`absolute right-0 left-0 flex h-[30px] cursor-pointer items-center gap-3 rounded-lg px-2.5 ${index === at ? 'bg-wash text-plum' : ''}`}
                style={{ top: start }}
                onPointerMove={() => setAt(index)}
                onClick={(e) => act(thing, e.shiftKey)}
              >
                <Name text={thing.name} className="flex-1" />
                <span className="shrink-0 truncate text-ink-2">{thing.kind}</span>
                <kbd className="w-20 shrink-0 text-right font-mono text-[11px] text-ink-2">{thing.keys}</kbd>
              </div>
            );
          })}
        </div>
      </div>
      <p className="m-0 border-t border-line px-4 py-1.5 text-ink-2">
        Enter does it or picks it, Shift+Enter also frames it, Esc leaves.
      </p>
    </>
  );
}

/** With nothing typed: what was found last, then all commands. Else the best of all. */
function find(wanted: string, others: Thing[], nodes: Thing[]): Thing[] {
  if (wanted !== '') return best(chain(others, nodes), wanted, most);
  const byId = new Map<string, Thing>();
  const kept = recent();
  for (const thing of chain(others, nodes)) if (kept.includes(thing.id)) byId.set(thing.id, thing);
  const first = kept.map((id) => byId.get(id)).filter((t) => t !== undefined);
  return [...first, ...others.filter((t) => !byId.has(t.id)), ...nodes].slice(0, most);
}

function* chain(a: Thing[], b: Thing[]): Iterable<Thing> {
  yield* a;
  yield* b;
}
