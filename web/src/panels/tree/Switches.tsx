import type { Edit } from '../../core/answers';
import { Lock, LockOpen } from 'lucide-react';
import type { PointerEvent, ReactNode } from 'react';
import type { OutlineRow } from '../../core/outline';
import { session } from '../../acts/session';
import { currentShot } from '../../state/shotsSlice';
import { get, useStore } from '../../state/store';
import { branchOf, othersOf } from '../../state/branches';

type Which = 'working' | 'final' | 'locked';

/** A press that runs across rows switches them all to the same, as one step. */
let sweep: { which: Which; on: boolean; ids: Set<string> } | null = null;

function edit(which: Which, nodes: string[], on: boolean): Edit {
  return which === 'locked' ? { do: 'lock', nodes, on } : { do: 'see', nodes, [which]: on };
}

/** Shift: the whole branch. Alt: all others than this branch and what carries it. */
function reach(row: OutlineRow, e: PointerEvent | React.KeyboardEvent): { ids: string[]; others: boolean } {
  if (e.shiftKey && row.kind !== 'collection') return { ids: branchOf(get(), [row.id]), others: false };
  if (!e.altKey) return { ids: [row.id], others: false };
  if (row.kind === 'collection')
    return {
      ids: get()
        .collections.filter((c) => c.id !== row.id && c.parent === row.parent)
        .map((c) => c.id),
      others: true,
    };
  return { ids: othersOf(get(), [row.id]), others: true };
}

function flip(row: OutlineRow, which: Which, e: PointerEvent | React.KeyboardEvent): boolean {
  const on = !row[which];
  const { ids, others } = reach(row, e);
  if (ids.length > 0) session.keep(edit(which, ids, on));
  return !others && ids.length === 1;
}

function press(row: OutlineRow, which: Which, e: PointerEvent): void {
  if (e.button !== 0) return;
  e.stopPropagation();
  const on = !row[which];
  const alone = !e.shiftKey && !e.altKey;
  if (!alone) {
    flip(row, which, e);
    return;
  }
  (e.target as Element).releasePointerCapture?.(e.pointerId);
  sweep = { which, on, ids: new Set([row.id]) };
  const end = () => {
    window.removeEventListener('pointerup', end);
    window.removeEventListener('pointercancel', end);
    const done = sweep;
    sweep = null;
    if (done) session.keep(edit(done.which, [...done.ids], done.on));
  };
  window.addEventListener('pointerup', end);
  window.addEventListener('pointercancel', end);
}

/** Two switches (round: working view, oblong: final picture) and a lock. */
export function Switches({ row, reachable = false }: { row: OutlineRow; reachable?: boolean }) {
  const own = useStore((s) => s.settings.treeShows);
  const shows = (which: Which) => own?.[which] !== false;
  const inPicture = useStore((s) => (s.narrow ? (currentShot(s)?.title ?? 'the shot') : 'the final picture'));
  return (
    <>
      {shows('locked') && (
        <Switch
          row={row}
          reachable={reachable}
          which="locked"
          label={row.locked ? `Unlock ${row.name}` : `Lock ${row.name}`}
          quiet={!row.locked}
        >
          {row.locked ? <Lock size={12} /> : <LockOpen size={12} />}
        </Switch>
      )}
      {shows('working') && (
        <Switch row={row} reachable={reachable} which="working" label={`${row.name} in the working view`}>
          <span className={`h-2.5 w-2.5 rounded-full border-[1.5px] border-ink-2 ${row.working ? 'bg-ink-2' : ''}`} />
        </Switch>
      )}
      {shows('final') && (
        <Switch row={row} reachable={reachable} which="final" label={`${row.name} in ${inPicture}`}>
          <span
            className={`relative h-[7px] w-3 rounded-[2px] border-[1.5px] border-ink-2 ${row.final ? 'bg-ink-2' : ''}`}
          >
            {row.ownInShot && (
              <span
                aria-hidden
                className="absolute -top-1.5 -right-1.5 h-0 w-0 border-t-[7px] border-l-[7px] border-t-plum border-l-transparent"
                data-own
              />
            )}
          </span>
        </Switch>
      )}
    </>
  );
}

function Switch(props: {
  row: OutlineRow;
  which: Which;
  label: string;
  quiet?: boolean;
  /** By Tab, from the tree. */
  reachable: boolean;
  children: ReactNode;
}) {
  const { row, which } = props;
  return (
    <button
      type="button"
      tabIndex={props.reachable ? 0 : -1}
      role="switch"
      aria-checked={row[which]}
      aria-label={props.label}
      title={`${props.label}. Drag across rows switches them too; Shift: its branch; Alt: all others.`}
      draggable
      className={`h-6 w-6 shrink-0 place-items-center text-ink-2 hover:text-plum ${props.quiet ? (props.reachable ? 'grid min-w-0 shrink-[500] overflow-hidden' : 'hidden group-hover:grid') : 'grid'}`}
      onDragStart={(e) => {
        e.preventDefault();
        e.stopPropagation();
      }}
      onPointerDown={(e) => press(row, which, e)}
      onPointerEnter={() => sweep?.which === which && sweep.ids.add(row.id)}
      onClick={(e) => e.stopPropagation()}
      onDoubleClick={(e) => e.stopPropagation()}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' && e.key !== ' ') return;
        e.preventDefault();
        e.stopPropagation();
        flip(row, which, e);
      }}
    >
      {props.children}
    </button>
  );
}
