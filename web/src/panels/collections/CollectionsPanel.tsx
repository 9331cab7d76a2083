import { DropdownMenu } from 'radix-ui';
import { floating } from '../../controls/floating';
import { Plus } from 'lucide-react';
import { useMemo, useState, type DragEvent } from 'react';
import type { DrawnAs } from '../../core/answers';
import type { OutlineRow } from '../../core/outline';
import { collect, newCollection } from '../../acts/collecting';
import { filterTree, isolate } from '../../acts/isolating';
import { usedCollection } from '../../acts/lastCollection';
import { session } from '../../acts/session';
import { get, set, useStore } from '../../state/store';
import { above } from '../../state/branches';
import { colors } from '../../controls/colors';
import { MenuItem } from '../../controls/MenuItem';
import { Name } from '../../controls/Name';
import { NameField } from '../../controls/NameField';
import { Switches } from '../tree/Switches';
import { RuleDialog } from './RuleDialog';

/** Collections: named sets for seeing and picking. A node may be in several; they carry nothing. */
export function CollectionsPanel() {
  const collections = useStore((s) => s.collections);
  const [open, setOpen] = useState(true);
  const [ruling, setRuling] = useState<string | null>(null);
  // Who belongs to it changes with the objects, with what lies in it and with rules, not with switches.
  const sets = useStore((s) =>
    s.collections.map((c) => `${c.id} ${c.parent} ${c.smart ? session.core.ruleInWords(c.id) : ''}`).join('|'),
  );
  return (
    <section aria-label="Collections" className="border-t border-line px-3 py-2">
      <header className="flex items-center justify-between">
        <button type="button" className="panel-title" aria-expanded={open} onClick={() => setOpen(!open)}>
          Collections {collections.length > 0 && <span className="font-normal text-ink-2">{collections.length}</span>}
        </button>
        <button
          type="button"
          className="btn"
          aria-label="New collection"
          title="A collection of what is picked"
          onClick={() => newCollection()}
        >
          <Plus size={13} aria-hidden /> Collection
        </button>
      </header>
      {open && collections.length > 0 && (
        <ul className="m-0 mt-1 max-h-32 list-none overflow-auto p-0" aria-label="Collections of this scene">
          {collections.map((row) => (
            <CollectionRow key={row.id} row={row} sets={sets} rule={() => setRuling(row.id)} />
          ))}
        </ul>
      )}
      {ruling !== null && <RuleDialog collection={ruling} close={() => setRuling(null)} />}
    </section>
  );
}

const ways: [DrawnAs, string][] = [
  ['full', 'Draw in full'],
  ['wire', 'Draw as wires'],
  ['box', 'Draw as boxes'],
];

function CollectionRow({ row, sets, rule }: { row: OutlineRow; sets: string; rule: () => void }) {
  const byId = useStore((s) => s.byId);
  const memberships = useStore((s) => s.memberships);
  const picked = useStore((s) => s.selection);
  const renaming = useStore((s) => s.renaming === row.id);
  const hasShots = useStore((s) => s.shots.length > 0);
  const [over, setOver] = useState(false);
  const members = useMemo(() => session.core.membersOf(row.id), [row.id, memberships, sets]);
  const depth = above({ byId }, row.id).length;
  const all = members.length > 0 && members.every((id) => picked.includes(id));
  const pickMembers = (add: boolean) => {
    usedCollection(row.id);
    if (members.length === 0)
      session.say({ kind: 'info', text: `${row.name} has no members yet. Drag objects onto it.` });
    else session.select(add ? [...picked.filter((id) => !members.includes(id)), ...members] : members);
  };
  return (
    <li
      className={`group flex items-center gap-1 rounded ${over ? 'outline-2 outline-plum' : ''} ${all ? 'bg-wash' : ''}`}
      style={{ paddingLeft: depth * 12 }}
      data-collection={row.name}
      draggable={!renaming}
      onDragStart={(e) => e.dataTransfer.setData('text/calm-pivot', row.id)}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        setOver(false);
        drop(e, row);
      }}
    >
      <span
        aria-hidden
        className="h-2.5 w-2.5 shrink-0 rounded-[2px]"
        style={{ background: row.color ?? 'var(--edge)' }}
      />
      {renaming ? (
        <NameField id={row.id} name={row.name} label="Name of the collection" />
      ) : (
        <button
          type="button"
          className={`flex min-h-7 min-w-0 flex-1 items-center gap-1 rounded px-0.5 text-left ${row.working ? '' : 'opacity-60'}`}
          title={`Pick the members of ${row.name}${row.smart ? ` (${session.core.ruleInWords(row.id)})` : ''}`}
          onClick={(e) => pickMembers(e.ctrlKey || e.metaKey)}
          onDoubleClick={() => set({ renaming: row.id })}
        >
          <Name text={row.name} />
          <span className="shrink-0 text-[11px] text-ink-2">
            {row.smart ? 'rule · ' : ''}
            {members.length}
          </span>
        </button>
      )}
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className="btn px-1" aria-label={`More about the collection ${row.name}`}>
          ⋯
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal container={floating()}>
          <DropdownMenu.Content className="menu" align="end" collisionPadding={8}>
            <MenuItem
              word="Put the picked into it"
              off={picked.length === 0}
              act={() => collect(row.id, get().selection, true)}
            />
            <MenuItem
              word="Take the picked out of it"
              off={picked.length === 0}
              act={() => collect(row.id, get().selection, false)}
            />
            <MenuItem word="Pick its members" act={() => pickMembers(false)} />
            <MenuItem word="Isolate its members" off={members.length === 0} act={() => isolate(members)} />
            <MenuItem word="Only its members in the tree" act={() => filterTree({ collection: row.id })} />
            <DropdownMenu.Separator className="menu-line" />
            {ways.map(([as, word]) => (
              <MenuItem
                key={as}
                word={`${row.drawn === as ? '● ' : ''}${word}`}
                act={() => session.keep({ do: 'draw', nodes: [row.id], as })}
              />
            ))}
            <DropdownMenu.Separator className="menu-line" />
            <div className="flex gap-1 px-2.5 py-1" role="group" aria-label="Colour">
              {colors.map(({ color, word }) => (
                <DropdownMenu.Item
                  key={color}
                  aria-label={word}
                  title={word}
                  className={`h-5 w-5 cursor-pointer rounded border ${row.color === color ? 'border-ink-1' : 'border-line'}`}
                  style={{ background: color }}
                  onSelect={() => session.keep({ do: 'label', nodes: [row.id], color })}
                />
              ))}
              <DropdownMenu.Item
                className="menu-item px-1.5 py-0"
                onSelect={() => session.keep({ do: 'label', nodes: [row.id], color: '' })}
              >
                none
              </DropdownMenu.Item>
            </div>
            {hasShots && <MenuItem word="Seen by shot: the table" act={() => set({ open: 'seen' })} />}
            <MenuItem word={row.smart ? 'Change its rule…' : 'Give it a rule…'} act={rule} />
            {row.smart && (
              <MenuItem word="Take its rule away" act={() => session.keep({ do: 'setRule', collection: row.id })} />
            )}
            <MenuItem word="A collection in it" act={() => newCollection(row.id)} />
            {row.parent !== null && (
              <MenuItem
                word="Take it out of the one around it"
                act={() =>
                  session.keep({ do: 'putUnder', nodes: [row.id], parent: byId.get(row.parent!)?.parent ?? null })
                }
              />
            )}
            <MenuItem word="Rename" act={() => set({ renaming: row.id })} />
            <MenuItem word="Remove; its members stay" act={() => session.keep({ do: 'remove', nodes: [row.id] })} />
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Switches row={row} />
    </li>
  );
}

/** Objects become members; a collection goes into it. */
function drop(e: DragEvent, row: OutlineRow): void {
  e.preventDefault();
  const id = e.dataTransfer.getData('text/calm-pivot');
  const { selection, byId } = get();
  const dragged = byId.get(id);
  if (!dragged || id === row.id) return;
  if (dragged.kind === 'collection') session.keep({ do: 'putUnder', nodes: [id], parent: row.id });
  else collect(row.id, selection.includes(id) ? selection : [id], true);
}
