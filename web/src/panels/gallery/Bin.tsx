import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import { api, type RemovedScene } from '../../api/client';
import { session } from '../../acts/session';
import { bringBack } from '../../acts/wholeScenes';
import { Name } from '../../controls/Name';
import { when } from '../../controls/when';

const height = 44;
const day = 24 * 60 * 60 * 1000;

/** What was removed in the last thirty days: to be brought back, or gone for good. */
export function Bin({ counted }: { counted: (count: number) => void }) {
  const [scenes, setScenes] = useState<RemovedScene[] | null>(null);
  const [asked, setAsked] = useState<string | 'all' | null>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: scenes?.length ?? 0,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 8,
  });
  const read = () =>
    session.guarded(async () => {
      const there = await api.bin();
      setScenes(there);
      counted(there.length);
    });
  useEffect(() => {
    void read();
  }, []);
  const mine = scenes?.filter((scene) => scene.mine).length ?? 0;
  const act = (what: () => Promise<void>) => {
    setAsked(null);
    // The button that was pressed goes; keys go on here.
    scroller.current?.focus();
    void session.guarded(what).then(read);
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col" aria-label="Bin" role="region">
      <div className="flex items-center gap-2 px-5 py-1 text-ink-2">
        <span className="flex-1">
          {scenes?.length === 0
            ? 'The bin is empty. A scene that is removed lies here for thirty days, with all its steps.'
            : 'A scene that was removed lies here for thirty days, with all its steps.'}
        </span>
        {mine > 0 && (
          <Sure
            asked={asked === 'all'}
            ask={(on) => setAsked(on ? 'all' : null)}
            word={mine === scenes?.length ? 'Empty the bin' : 'Remove mine for good'}
            sure={
              mine < (scenes?.length ?? 0)
                ? `No way back: remove mine, ${mine} of ${scenes?.length}`
                : `Remove ${mine === 1 ? 'it' : `all ${mine}`} for good`
            }
            act={() => act(() => api.emptyBin())}
          />
        )}
      </div>
      <div ref={scroller} className="min-h-0 flex-1 overflow-auto px-3 pb-3" tabIndex={-1}>
        <ul className="relative m-0 list-none p-0" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((row) => {
            const scene = scenes![row.index]!;
            const left = Math.max(0, Math.ceil(30 - (Date.now() - Date.parse(scene.removedAt)) / day));
            return (
              <li
                key={scene.id}
                className="absolute right-0 left-0 flex items-center gap-3 rounded-lg px-2 hover:bg-wash"
                style={{ top: row.start, height }}
              >
                <span className="flex min-w-0 flex-1 font-semibold text-ink-1">
                  <Name text={scene.name} />
                </span>
                <span className="shrink-0 text-ink-2">
                  {scene.nodeCount === 1 ? '1 object' : `${scene.nodeCount.toLocaleString('en')} objects`} · removed{' '}
                  {when(scene.removedAt)} · {left === 1 ? '1 day' : `${left} days`} left
                </span>
                <button type="button" className="btn" onClick={() => act(() => bringBack(scene.id))}>
                  Bring back
                </button>
                {scene.mine ? (
                  <Sure
                    asked={asked === scene.id}
                    ask={(on) => setAsked(on ? scene.id : null)}
                    word="Remove for good"
                    sure="No way back: remove"
                    act={() => act(() => api.removeForGood(scene.id))}
                  />
                ) : (
                  <span className="w-[120px] shrink-0 text-right text-ink-2">not put here by you</span>
                )}
              </li>
            );
          })}
        </ul>
      </div>
    </div>
  );
}

/** A button that asks once more before it acts. */
function Sure(props: { asked: boolean; ask: (on: boolean) => void; word: string; sure: string; act: () => void }) {
  if (!props.asked) {
    return (
      <button type="button" className="btn" onClick={() => props.ask(true)}>
        {props.word}
      </button>
    );
  }
  return (
    <span
      className="flex gap-1"
      data-asked
      onKeyDown={(e) => {
        if (e.key !== 'Escape') return;
        e.stopPropagation();
        props.ask(false);
      }}
    >
      <button type="button" className="btn" onClick={() => props.ask(false)}>
        Keep
      </button>
      <button autoFocus type="button" className="btn border-refusal text-refusal" onClick={props.act}>
        {props.sure}
      </button>
    </span>
  );
}
