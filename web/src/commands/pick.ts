import { session } from '../acts/session';
import { get, isLocked, isSeen, set } from '../state/store';
import { branchOf } from '../state/branches';
import { nothingPicked, type Command } from './command';

/** Commands that change what is picked. */
export const pickCommands: Command[] = [
  {
    id: 'pick.all',
    group: 'Pick',
    says: 'Pick everything',
    also: 'select all',
    keys: ['e', 'Ctrl+a'],
    act: () => session.select(seenRows().map((r) => r.id)),
  },
  {
    id: 'pick.none',
    group: 'Pick',
    says: 'Pick nothing',
    also: 'deselect',
    keys: ['Shift+e'],
    act: () => session.select([]),
  },
  {
    id: 'pick.rest',
    group: 'Pick',
    says: 'Pick the rest instead',
    also: 'invert selection',
    keys: ['Ctrl+i'],
    act: () => {
      const picked = new Set(get().selection);
      session.select(
        seenRows()
          .map((r) => r.id)
          .filter((id) => !picked.has(id)),
      );
    },
  },
  {
    id: 'pick.kind',
    group: 'Pick',
    says: 'Pick all of this kind',
    also: 'select similar same type',
    keys: [],
    not: nothingPicked,
    act: () => {
      const { selection, byId } = get();
      const kinds = new Set(selection.map((id) => likeness(byId.get(id)?.kind, id)));
      const same = seenRows().filter((r) => kinds.has(likeness(r.kind, r.id)));
      session.select([...same.map((r) => r.id).filter((id) => id !== selection.at(-1)), selection.at(-1)!]);
    },
  },
  {
    id: 'pick.children',
    group: 'Pick',
    says: 'Pick the children',
    also: 'select hierarchy',
    keys: ['Ctrl+Shift+ArrowDown'],
    not: () => nothingPicked() ?? (childrenPicked().length === 0 ? 'Nothing rides on what is picked.' : null),
    act: () => session.select(childrenPicked()),
  },
  {
    id: 'pick.siblings',
    group: 'Pick',
    says: 'Pick the siblings',
    also: 'select hierarchy beside',
    keys: ['Ctrl+Shift+ArrowRight'],
    not: nothingPicked,
    act: () => {
      const { selection, byId, children } = get();
      const lead = selection.at(-1)!;
      const beside = [...new Set(selection.flatMap((id) => children.get(byId.get(id)?.parent ?? null) ?? []))];
      session.select([...beside.filter((id) => id !== lead), lead]);
    },
  },
  {
    id: 'pick.sharing',
    group: 'Pick',
    says: 'Pick all that share this shape',
    also: 'select linked copies instances',
    keys: [],
    not: () =>
      nothingPicked() ??
      (get().selection.some((id) => get().byId.get(id)?.shares) ? null : 'Nothing else shares this shape.'),
    act: () => {
      const { selection } = get();
      const lead = selection.at(-1)!;
      const all = [...new Set(selection.flatMap((id) => session.core.sharingWith(id)))];
      session.select([...all.filter((id) => id !== lead), lead]);
    },
  },
  {
    id: 'pick.lead',
    group: 'Pick',
    says: 'The next of the picked leads',
    also: 'make it the lead active reference last',
    keys: ['Shift+k'],
    not: () => (get().selection.length < 2 ? 'Pick two objects or more; the last is the lead.' : null),
    act: () => {
      const [first, ...rest] = get().selection;
      session.select([...rest, first!]);
    },
  },
  {
    id: 'pick.branch',
    group: 'Pick',
    says: 'Pick the whole branch',
    also: 'select hierarchy',
    keys: ['Ctrl+Shift+ArrowUp'],
    not: nothingPicked,
    act: () => {
      const { selection } = get();
      const lead = selection.at(-1)!;
      session.select([...branchOf(get(), selection).filter((id) => id !== lead), lead]);
    },
  },
  {
    id: 'pick.parent',
    group: 'Pick',
    says: 'Pick the parent',
    also: 'up',
    keys: ['Ctrl+ArrowUp'],
    not: () =>
      nothingPicked() ?? (get().byId.get(get().selection.at(-1)!)?.parent ? null : 'Nothing carries what is picked.'),
    act: () => step('parent'),
  },
  {
    id: 'pick.child',
    group: 'Pick',
    says: 'Pick the first child',
    also: 'down',
    keys: ['Ctrl+ArrowDown'],
    not: nothingPicked,
    act: () => step('child'),
  },
  {
    id: 'pick.previous',
    group: 'Pick',
    says: 'Pick the one before in the tree',
    keys: ['Ctrl+ArrowLeft'],
    not: nothingPicked,
    act: () => step('previous'),
  },
  {
    id: 'pick.next',
    group: 'Pick',
    says: 'Pick the next in the tree',
    keys: ['Ctrl+ArrowRight'],
    not: nothingPicked,
    act: () => step('next'),
  },
  {
    id: 'pick.keep',
    group: 'Pick',
    says: 'Keep the selection, or let it change again',
    also: 'lock selection',
    keys: ['k'],
    act: () => keepSelection(!get().keepSelection),
  },
  {
    id: 'pick.adding',
    group: 'Pick',
    says: 'Every press adds, or one replaces the other',
    also: 'multi touch add',
    keys: [],
    act: () => set({ adding: !get().adding, notice: null }),
  },
];

const childrenPicked = () => get().selection.flatMap((id) => get().children.get(id) ?? []);

export function keepSelection(on: boolean): void {
  set({ keepSelection: on });
  session.say({
    kind: 'info',
    text: on ? 'The selection is kept: clicks change nothing. K lets it change again.' : 'Clicks pick again.',
  });
}

/** What can be seen in the working view and is not locked, in the order of the tree. */
function seenRows() {
  const state = get();
  return state.rows.filter((row) => isSeen(state, row) && !isLocked(state, row));
}

/** Shapes are alike by their type, all else by kind. */
function likeness(kind: string | undefined, id: string): string {
  return kind === 'shape' ? `shape ${session.core.stored(id)?.shape?.type}` : (kind ?? '');
}

function step(way: 'parent' | 'child' | 'previous' | 'next'): void {
  const { selection, byId, children } = get();
  const lead = byId.get(selection.at(-1)!);
  if (!lead) return;
  const siblings = children.get(lead.parent) ?? [];
  const at = siblings.indexOf(lead.id);
  const to = {
    parent: lead.parent,
    child: children.get(lead.id)?.[0],
    previous: siblings[at - 1],
    next: siblings[at + 1],
  }[way];
  if (to) session.select([to]);
  else {
    const none = { parent: 'has no parent', child: 'has no children', previous: 'is the first', next: 'is the last' }[
      way
    ];
    session.say({ kind: 'info', text: `${lead.name} ${none}.` });
  }
}
