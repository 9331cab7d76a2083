import { useEffect, useRef, type KeyboardEvent } from 'react';
import { isolate } from '../acts/isolating';
import { Name as CutName } from '../controls/Name';
import { matesOf } from '../acts/mates';
import { session } from '../acts/session';
import { get, useStore } from '../state/store';
import { middleCut } from '../controls/middleCut';
import { pick } from './press';
import { setPointer, usePointer } from '../state/pointer';
import type { Stage } from './stage';

/** What floats over the stage for the moment: the name under the pointer, a box, the list of what lies under a place. */
export function Over({ stage }: { stage: Stage }) {
  const { hovered, box, list } = usePointer();
  return (
    <>
      {hovered && !list && <Name id={hovered.id} x={hovered.x} y={hovered.y} />}
      {box && (
        <div
          className={`pointer-events-none absolute rounded-sm border-[1.5px] border-plum ${box.whole ? 'bg-plum/15' : 'border-dashed bg-plum/5'}`}
          style={{ left: box.x, top: box.y, width: box.width, height: box.height }}
          data-box
        >
          <span
            className="absolute top-full left-0 mt-1 rounded-md bg-plum px-2 py-0.5 whitespace-nowrap text-on-plum"
            role="status"
          >
            {box.whole ? 'held whole' : 'touched'}
            {box.count !== null && ` · ${box.count}`} — Alt turns it round
          </span>
        </div>
      )}
      {list && <UnderHere stage={stage} ids={list.ids} x={list.x} y={list.y} />}
      <Modes />
    </>
  );
}

function Name({ id, x, y }: { id: string; x: number; y: number }) {
  const name = useStore((s) => s.byId.get(id)?.name);
  const riding = useStore((s) => s.selection.includes(id));
  if (!name || riding) return null;
  return (
    <div
      className="pointer-events-none absolute max-w-72 truncate rounded-md border border-line bg-paper px-2 py-0.5 text-ink-1"
      style={{ left: x + 14, top: y + 16 }}
      data-hovered
    >
      {middleCut(name, 44)}
    </div>
  );
}

/** Everything under a place, near to far; arrows walk, Enter picks. */
function UnderHere({ stage, ids, x, y }: { stage: Stage; ids: string[]; x: number; y: number }) {
  const byId = useStore((s) => s.byId);
  const first = useRef<HTMLButtonElement>(null);
  useEffect(() => first.current?.focus(), [ids]);
  const leave = () => {
    setPointer({ list: null, hovered: null });
    stage.draw();
  };
  const choose = (id: string, add: boolean) => {
    leave();
    if (get().keepSelection) session.say({ kind: 'info', text: 'The selection is kept. K lets it change again.' });
    else pick(id, add);
    document.querySelector<HTMLElement>('[data-stage]')?.focus();
  };
  const keyed = (e: KeyboardEvent) => {
    const items = [...e.currentTarget.querySelectorAll('button')];
    const step = { ArrowDown: 1, ArrowUp: -1 }[e.key];
    if (step !== undefined)
      items[(items.indexOf(document.activeElement as never) + step + items.length) % items.length]?.focus();
    else if (e.key === 'Escape') leave();
    else if (e.key !== 'Enter' && e.key !== ' ') return;
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <div
      className="menu absolute z-40 max-h-64"
      style={{ left: Math.min(x + 8, Math.max(0, window.innerWidth - 620)), top: y + 8 }}
      role="menu"
      aria-label="Under here, near to far"
      data-over-stage
      data-catches-keys
      onKeyDown={keyed}
    >
      <p className="m-0 px-2.5 py-1 text-ink-2">Under here, near to far</p>
      {ids.slice(0, 30).map((id, i) => (
        <button
          key={id}
          ref={i === 0 ? first : undefined}
          type="button"
          role="menuitem"
          className="menu-item w-full hover:bg-wash focus:bg-wash focus:text-plum"
          onPointerEnter={() => point(stage, id, x, y)}
          onFocus={() => point(stage, id, x, y)}
          onClick={(e) => choose(id, e.ctrlKey || e.metaKey)}
        >
          <CutName text={byId.get(id)?.name ?? ''} className="max-w-64" />
          <span className="ml-auto pl-4 text-ink-2">{byId.get(id)?.kind}</span>
        </button>
      ))}
    </div>
  );
}

function point(stage: Stage, id: string, x: number, y: number): void {
  setPointer({ hovered: { id, x, y } });
  stage.draw();
}

/** What is unusual at the moment, and the way out of it. */
function Modes() {
  const byId = useStore((s) => s.byId);
  const keep = useStore((s) => s.keepSelection);
  const adding = useStore((s) => s.adding);
  const left = useStore((s) => s.kindsLeftOut);
  const isolation = useStore((s) => s.isolation);
  const mates = useStore((s) => matesOf(s));
  // Below the bar of a camera that is looked through, which may have two rows.
  const looking = useStore((s) => s.views.some((view) => view.camera !== null));
  const modes: { key: string; text: string; word: string; leave: () => void; color?: string }[] = [];
  if (isolation)
    modes.push({
      key: 'isolation',
      text: `Isolated: ${isolation.ids.length === 1 ? middleCut(byId.get(isolation.ids[0]!)?.name ?? '', 24) : `${isolation.ids.length} objects`}${isolation.dim ? ', the rest dimmed' : ''}`,
      word: 'Show everything',
      leave: () => isolate([]),
    });
  if (mates)
    modes.push({
      key: 'mates',
      text: `In ${middleCut(mates.name, 24)} with ${mates.ids.length} more`,
      word: 'Do not show',
      leave: () => session.saveSettings({ mates: false }),
      color: mates.color,
    });
  if (keep)
    modes.push({
      key: 'keep',
      text: 'Selection kept',
      word: 'Let it change',
      leave: () => useStore.setState({ keepSelection: false, notice: null }),
    });
  if (adding)
    modes.push({
      key: 'adding',
      text: 'Every press adds',
      word: 'Stop adding',
      leave: () => useStore.setState({ adding: false }),
    });
  if (left.length > 0)
    modes.push({
      key: 'kinds',
      text: `Not picked: ${left.join(', ')}`,
      word: 'Pick all kinds',
      leave: () => useStore.setState({ kindsLeftOut: [] }),
    });
  if (modes.length === 0) return null;
  return (
    <div
      className={`absolute right-3 flex flex-col items-end gap-1.5 ${looking ? 'top-[92px]' : 'top-[52px]'}`}
      data-over-stage
    >
      {modes.map((mode) => (
        <div
          key={mode.key}
          className="flex items-center gap-2 rounded-lg border border-plum bg-wash py-1 pr-1 pl-2.5 text-ink-1"
          role="status"
        >
          {mode.color && <span aria-hidden className="h-2.5 w-2.5 rounded-[2px]" style={{ background: mode.color }} />}
          {mode.text}
          <button type="button" className="btn" onClick={mode.leave}>
            {mode.word}
          </button>
        </div>
      ))}
    </div>
  );
}
