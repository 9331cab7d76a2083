import { ChevronDown, ChevronRight, Lock, LockOpen } from 'lucide-react';
import { useState, type DragEvent, type MouseEvent } from 'react';
import { session } from '../../state/session';
import { get, ridesAlong, set, useStore } from '../../state/store';
import { pick } from '../../stage/press';
import { shownLines, toggle, type Line } from './TreePanel';

/** One object in the tree, with its two switches (round: working view, oblong: final picture) and its lock. */
export function TreeRow({ line, top }: { line: Line; top: number }) {
  const row = useStore((s) => s.byId.get(line.id));
  const picked = useStore((s) => s.selection.includes(line.id));
  const lead = useStore((s) => s.selection.at(-1) === line.id);
  const riding = useStore((s) => !picked && s.selection.length > 0 && ridesAlong(s, line.id));
  const renaming = useStore((s) => s.renaming === line.id);
  const [over, setOver] = useState(false);
  if (!row) return null;
  const see = (change: object) => session.keep({ do: 'see', nodes: [row.id], ...change });

  return (
    <div
      id={`row-${row.id}`}
      role="treeitem"
      aria-level={line.depth + 1}
      aria-selected={picked}
      aria-expanded={line.open ?? undefined}
      aria-label={`${row.name}${lead ? ', lead' : riding ? ', rides along' : ''}${row.working ? '' : ', off in the working view'}`}
      draggable={!renaming}
      onDragStart={(e) => e.dataTransfer.setData('text/calm-pivot', row.id)}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        setOver(false);
        drop(e, row.id);
      }}
      onClick={(e) => press(e, row.id)}
      onDoubleClick={() => set({ renaming: row.id })}
      className={`group absolute right-0 left-0 flex h-[26px] items-center rounded-lg pr-1 ${
        over ? 'outline-2 outline-plum' : ''
      } ${lead ? 'bg-wash font-semibold' : picked ? 'bg-wash' : 'hover:bg-line/40'} ${riding ? 'text-plum' : ''}`}
      style={{ top, paddingLeft: 4 + line.depth * 14 }}
    >
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
        <NameField id={row.id} name={row.name} />
      ) : (
        <span className={`min-w-0 flex-1 truncate ${row.working ? '' : 'opacity-60'}`} dir="auto">
          {row.name}
        </span>
      )}
      {lead && !renaming && (
        <span className="mx-1 rounded-full border border-plum px-1.5 text-[10.5px] font-semibold text-plum">lead</span>
      )}
      <Switch
        label={row.locked ? `Unlock ${row.name}` : `Lock ${row.name}`}
        on={row.locked}
        quiet={!row.locked}
        flip={() => session.keep({ do: 'lock', nodes: [row.id], on: !row.locked })}
      >
        {row.locked ? <Lock size={12} /> : <LockOpen size={12} />}
      </Switch>
      <Switch label={`${row.name} in the working view`} on={row.working} flip={() => see({ working: !row.working })}>
        <span className={`h-2.5 w-2.5 rounded-full border-[1.5px] border-ink-2 ${row.working ? 'bg-ink-2' : ''}`} />
      </Switch>
      <Switch label={`${row.name} in the final picture`} on={row.final} flip={() => see({ final: !row.final })}>
        <span className={`h-[7px] w-3 rounded-[2px] border-[1.5px] border-ink-2 ${row.final ? 'bg-ink-2' : ''}`} />
      </Switch>
    </div>
  );
}

function Switch(props: { label: string; on: boolean; quiet?: boolean; flip: () => void; children: React.ReactNode }) {
  return (
    <button
      type="button"
      tabIndex={-1}
      role="switch"
      aria-checked={props.on}
      aria-label={props.label}
      title={props.label}
      className={`h-6 w-6 shrink-0 place-items-center text-ink-2 hover:text-plum ${props.quiet ? 'hidden group-hover:grid' : 'grid'}`}
      onClick={(e) => {
        e.stopPropagation();
        props.flip();
      }}
    >
      {props.children}
    </button>
  );
}

function NameField({ id, name }: { id: string; name: string }) {
  const [text, setText] = useState(name);
  const keep = () => {
    if (get().renaming !== id) return;
    set({ renaming: null });
    if (text.trim() !== name) session.keep({ do: 'rename', node: id, name: text });
  };
  return (
    <input
      autoFocus
      aria-label="Name"
      className="field flex-1 text-left font-sans"
      value={text}
      maxLength={500}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setText(e.target.value)}
      onClick={(e) => e.stopPropagation()}
      onBlur={keep}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') keep();
        else if (e.key === 'Escape') set({ renaming: null });
      }}
    />
  );
}

function press(e: MouseEvent, id: string): void {
  const { selection, keepSelection, adding } = get();
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

function drop(e: DragEvent, parent: string): void {
  e.preventDefault();
  const id = e.dataTransfer.getData('text/calm-pivot');
  if (!id || id === parent) return;
  const { selection } = get();
  session.keep({ do: 'putUnder', nodes: selection.includes(id) ? selection : [id], parent });
}
