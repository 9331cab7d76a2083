import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, type KeyboardEvent } from 'react';
import type { Stage } from '../../stage/stage';
import { session } from '../../acts/session';
import { currentShot } from '../../state/shotsSlice';
import { get, noFilter, set, useStore } from '../../state/store';
import { above } from '../../state/branches';
import { CollectionsPanel } from '../collections/CollectionsPanel';
import { MarksPanel } from '../marks/MarksPanel';
import { AddMenu } from './AddMenu';
import { filtered, toggle, type Line } from './lines';
import { NodeActions } from './NodeActions';
import { SelectionsMenu } from './SelectionsMenu';
import { TreeFilters } from './TreeFilters';
import { TreeMenu } from './TreeMenu';
import { TreeRow } from './TreeRow';
import { onRenewal } from '../../state/renewal';

/** Parents and children in the artist's order. WAI-ARIA tree: arrows walk and open, Enter picks, letters find by name. */
export function TreePanel({ stage }: { stage: () => Stage | null }) {
  const children = useStore((s) => s.children);
  const closed = useStore((s) => s.closed);
  const selection = useStore((s) => s.selection);
  const count = useStore((s) => s.rows.length);
  const filter = useStore((s) => s.treeFilter);
  // Only a filter asks what rows say and what is seen.
  const byId = useStore((s) => (s.treeFilter === noFilter ? null : s.byId));
  const sight = useStore((s) => (s.treeFilter === noFilter ? null : s.sight));
  const lines = useMemo(() => filtered(get()), [children, closed, filter, byId, sight]);
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 26,
    overscan: 12,
  });
  const lead = selection.at(-1);

  // The picked row is always brought into view: its branches open, and the list moves there.
  useEffect(() => {
    if (lead === undefined) return;
    const { byId, closed: now } = get();
    const over = new Set(above({ byId }, lead).filter((id) => now.has(id)));
    if (over.size > 0) set({ closed: new Set([...now].filter((id) => !over.has(id))) });
  }, [lead]);
  useEffect(() => {
    const at = lead === undefined ? -1 : lines.findIndex((l) => l.id === lead);
    if (at >= 0) rows.scrollToIndex(at, { align: 'auto' });
  }, [lead, lines, rows]);

  return (
    <section aria-label="Tree" className="flex h-full min-h-0 flex-col">
      <header className="flex items-center justify-between px-3 pt-2.5 pb-1.5">
        <h2 className="panel-title">Tree</h2>
        <span className="flex gap-1">
          <SelectionsMenu />
          <AddMenu />
        </span>
      </header>
      <div className="flex justify-between px-3 pb-0.5 text-[11px] text-ink-2">
        <span>
          {filter === noFilter ? '' : `${lines.length} of `}
          {count === 1 ? '1 object' : `${count} objects`}
        </span>
        <PictureHead />
      </div>
      <TreeFilters />
      <TreeMenu stage={stage}>
        <div
          ref={scroller}
          role="tree"
          aria-label="Objects"
          aria-multiselectable="true"
          aria-activedescendant={lead ? `row-${lead}` : undefined}
          tabIndex={0}
          className="min-h-0 flex-1 overflow-auto px-1 outline-offset-[-2px]"
          onKeyDown={(e) => keyed(e, lines)}
        >
          <div role="presentation" className="relative" style={{ height: rows.getTotalSize() }}>
            {rows.getVirtualItems().map((item) => {
              const line = lines[item.index]!;
              return <TreeRow key={line.id} line={line} top={item.start} />;
            })}
          </div>
        </div>
      </TreeMenu>
      <CollectionsPanel />
      <MarksPanel />
      {selection.length > 0 && <NodeActions />}
    </section>
  );
}

let typed = '';
let typedAt = 0;

function keyed(e: KeyboardEvent, lines: Line[]): void {
  if (e.ctrlKey || e.metaKey || e.altKey || (e.target as HTMLElement).matches('input')) return;
  const { selection, byId } = get();
  const at = lines.findIndex((l) => l.id === selection.at(-1));
  const line = lines[at];
  const go = (to: number) => {
    const next = lines[Math.max(0, Math.min(lines.length - 1, to))];
    if (next) session.select(e.shiftKey ? [...selection.filter((id) => id !== next.id), next.id] : [next.id]);
  };
  if (e.key === 'ArrowDown') go(at + 1);
  else if (e.key === 'ArrowUp') go(at < 0 ? 0 : at - 1);
  else if (e.key === 'Home') go(0);
  else if (e.key === 'End') go(lines.length - 1);
  else if (e.key === 'ArrowRight' && line) {
    if (line.open === false) toggle(line.id);
    else if (line.open) go(at + 1);
  } else if (e.key === 'ArrowLeft' && line) {
    const parent = byId.get(line.id)?.parent;
    if (line.open) toggle(line.id);
    else if (parent) session.select([parent]);
  } else if (e.key.length === 1 && e.key !== ' ') {
    typed = e.timeStamp - typedAt < 1200 ? typed + e.key : e.key;
    typedAt = e.timeStamp;
    const wanted = typed.toLowerCase();
    const order = [...lines.slice(at + (typed.length > 1 ? 0 : 1)), ...lines];
    const found = order.find((l) => byId.get(l.id)?.name.toLowerCase().startsWith(wanted));
    if (found) session.select([found.id]);
  } else return;
  e.preventDefault();
  e.stopPropagation();
}

/** What the two switches of the rows are about: the oblong one follows the scope. */
function PictureHead() {
  const shot = useStore((s) => (s.narrow ? currentShot(s)?.title : undefined));
  return (
    <span aria-hidden className={`min-w-0 truncate ${shot === undefined ? '' : 'text-plum'}`}>
      view · {shot ?? 'picture'}
    </span>
  );
}

onRenewal(() => {
  typed = '';
});
