import { ChevronDown, ChevronRight } from 'lucide-react';
import { useState, type DragEvent, type MouseEvent } from 'react';
import { drawnPicked, give, isPicture, startBringing } from '../../acts/materials';
import { session } from '../../acts/session';
import { answered } from '../../acts/asked';
import { get, isSeen, set, tintOf, useStore } from '../../state/store';
import { ridesAlong } from '../../state/branches';
import { pick } from '../../stage/press';
import { Name } from '../../controls/Name';
import { NameField } from '../../controls/NameField';
import { Switches } from './Switches';
import { shownLines, toggle, type Line } from './lines';

/** Deep in the tree a level takes less room, so that names keep theirs. */
const indent = (depth: number) => 4 + Math.min(depth, 4) * 14 + Math.max(0, depth - 4) * 6;

/** One object in the tree, with its two switches (round: working view, oblong: final picture) and its lock. */
export function TreeRow({ line, top }: { line: Line; top: number }) {
  const row = useStore((s) => s.byId.get(line.id));
  const picked = useStore((s) => s.selection.includes(line.id));
  const lead = useStore((s) => s.selection.at(-1) === line.id);
  const riding = useStore((s) => !picked && s.selection.length > 0 && ridesAlong(s, line.id));
  const renaming = useStore((s) => s.renaming === line.id);
  const seen = useStore((s) => row !== undefined && isSeen(s, row));
  const elsewhere = useStore((s) => Object.values(s.others).some((ids) => ids.includes(line.id)));
  const tint = useStore((s) => (row ? tintOf(s, row) : null));
  const [over, setOver] = useState<Where | null>(null);
  if (!row) return null;

  return (
    <div
      id={`row-${row.id}`}
      role="treeitem"
      aria-level={line.depth + 1}
      aria-selected={picked}
      aria-expanded={line.open ?? undefined}
      aria-label={`${row.name}${lead ? ', lead' : riding ? ', rides along' : ''}${row.working ? (seen ? '' : ', hidden') : ', off in the working view'}${elsewhere ? ', picked in another window' : ''}`}
      // Why it is hidden is asked only where somebody points.
      onPointerEnter={(e) => (e.currentTarget.title = seen ? '' : whyHidden(row.id))}
      draggable={!renaming}
      onDragStart={(e) => e.dataTransfer.setData('text/calm-pivot', row.id)}
      onDragOver={(e) => {
        e.preventDefault();
        const where = get().giving ? 'inside' : whereOver(e);
        if (where !== over) setOver(where);
      }}
      onDragLeave={() => setOver(null)}
      onDrop={(e) => {
        setOver(null);
        drop(e, row.id, whereOver(e));
      }}
      onClick={(e) => press(e, row.id)}
      onDoubleClick={() => set({ renaming: row.id })}
      className={`group absolute right-0 left-0 flex h-[26px] items-center rounded-lg pr-1 ${
        over === 'inside' ? 'outline-2 outline-plum' : ''
      } ${lead ? 'bg-wash font-semibold' : picked ? 'bg-wash' : 'hover:bg-line/40'} ${riding ? 'text-plum' : ''}`}
      style={{ top, paddingLeft: indent(line.depth) }}
    >
      {over && over !== 'inside' && (
        <span
          aria-hidden
          data-drop={over}
          className={`pointer-events-none absolute right-1 h-[3px] rounded bg-plum ${over === 'before' ? '-top-[2px]' : '-bottom-[2px]'}`}
          style={{ left: 6 + indent(line.depth) }}
        />
      )}
      <button
        type="button"
        tabIndex={-1}
        aria-hidden
        className="grid h-6 w-5 shrink-0 place-items-center text-ink-2"
        onClick={(e) => {
          e.stopPropagation();
          toggle(row.id);
        }}
      >
        {line.open === null ? (
          <span className="h-1 w-1 rounded-full bg-edge" />
        ) : line.open ? (
          <ChevronDown size={14} />
        ) : (
          <ChevronRight size={14} />
        )}
      </button>
      {renaming ? (
        <NameField id={row.id} name={row.name} label="Name" />
      ) : (
        <span
          className={`flex min-w-0 flex-auto items-center ${seen ? '' : 'opacity-60'} ${seen || !row.working ? '' : 'italic'}`}
        >
          {row.color && <Dot color={row.color} />}
          <Name text={row.name} />
          {row.closed && (
            <span className="pl-1 text-[11px] text-ink-2" title="Closed: a press on a member picks the group">
              ▣
            </span>
          )}
          {row.shares && (
            <span className="pl-1 text-[11px] text-ink-2" title="It shares its shape with others">
              ∞
            </span>
          )}
          {row.noted && (
            <span className="pl-1 text-[11px] text-ink-2" title="It carries a note">
              ✎
            </span>
          )}
        </span>
      )}
      {tint !== null && <Dot color={tint} />}
      {elsewhere && (
        <span className="mx-1 h-2 w-2 shrink-0 rounded-full border-2 border-warning" title="Picked in another window" />
      )}
      {lead && !renaming && (
        <span
          aria-hidden
          className="mx-1 min-w-0 shrink-[1000] overflow-hidden rounded-full text-[10.5px] font-semibold text-plum after:block after:rounded-full after:border after:border-plum after:px-1.5 after:content-['lead']"
        />
      )}
      <Switches row={row} reachable={lead} />
    </div>
  );
}

function Dot({ color }: { color: string }) {
  return (
    <span aria-hidden className="mr-1 inline-block h-2 w-2 shrink-0 rounded-[2px]" style={{ background: color }} />
  );
}

function press(e: MouseEvent, id: string): void {
  const { selection, keepSelection, adding } = get();
  if (answered(id)) return;
  if (keepSelection) {
    session.say({
      kind: 'info',
      text: 'The selection is kept, so this press changed nothing. K lets it change again.',
    });
    return;
  }
  if (e.shiftKey && selection.length > 0) pickRange(selection, id);
  else pick(id, e.ctrlKey || e.metaKey || adding);
}

/** Everything that the tree shows from the lead to here; this one leads. */
function pickRange(selection: string[], id: string): void {
  const shown = shownLines().map((line) => line.id);
  const [a, b] = [shown.indexOf(selection.at(-1)!), shown.indexOf(id)];
  if (a < 0 || b < 0) return;
  const range = shown.slice(Math.min(a, b), Math.max(a, b) + 1).filter((n) => n !== id);
  session.select([...selection.filter((n) => n !== id && !range.includes(n)), ...range, id]);
}

function whyHidden(id: string): string {
  const { isolation } = get();
  const reasons = session.core.whySeen(id)?.reasons.filter((r) => !r.final) ?? [];
  return reasons.map((r) => r.text).join('\n') || (isolation ? 'hidden: others are isolated' : '');
}

type Where = 'inside' | 'before' | 'after';

/** The upper and the lower quarter of a row mean before and after it. */
function whereOver(e: DragEvent): Where {
  const { top, height } = e.currentTarget.getBoundingClientRect();
  const at = (e.clientY - top) / height;
  return at < 0.28 ? 'before' : at > 0.72 ? 'after' : 'inside';
}

function drop(e: DragEvent, target: string, where: Where): void {
  e.preventDefault();
  const material = e.dataTransfer.getData('text/calm-pivot-material');
  const file = e.dataTransfer.files[0];
  if (material || (file && isPicture(file))) {
    const picked = drawnPicked();
    const nodes = picked.includes(target) ? picked : [target];
    if (material) give(material, nodes);
    else startBringing(file!, file!.name, nodes);
    return;
  }
  const id = e.dataTransfer.getData('text/calm-pivot');
  const { selection, byId, children } = get();
  if (!id || id === target || !byId.has(id)) return;
  const nodes = selection.includes(id) ? selection : [id];
  // With Ctrl the stored numbers stay instead of the places.
  const keep = e.ctrlKey || e.metaKey ? 'numbers' : 'world';
  if (where === 'inside') {
    session.keep({ do: 'putUnder', nodes, parent: target, keep });
    return;
  }
  const { parent } = byId.get(target)!;
  const rest = (children.get(parent) ?? []).filter((n) => !nodes.includes(n));
  const at = rest.indexOf(target);
  if (at < 0) return;
  session.keep({ do: 'putUnder', nodes, parent, index: where === 'before' ? at : at + 1, keep });
}
