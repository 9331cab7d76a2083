import { ask, keepIfSure, keepPlan, startIfSure, startPlan, usualStep } from '../acts/planning';
import { newCollection, startCollecting } from '../acts/collecting';
import { again, madeBy } from '../acts/plans';
import { kept } from '../acts/keeping';
import { session } from '../acts/session';
import { get, set } from '../state/store';
import { nothingPicked, type Command } from './command';

/** Commands that build: groups, copies, collections, and what is seen. */
export const buildingCommands: Command[] = [
  {
    id: 'under',
    group: 'Edit',
    says: 'Put under another object',
    also: 'parent lead attach',
    keys: ['u'],
    not: nothingPicked,
    act: () => putUnder(),
  },
  {
    id: 'out',
    group: 'Edit',
    says: 'Take out to the top',
    also: 'unparent detach',
    keys: ['Shift+u'],
    not: nothingToTakeOut,
    act: () => takeOut('top'),
  },
  {
    id: 'outOne',
    group: 'Edit',
    says: 'Take out one level',
    also: 'unparent detach up',
    keys: [],
    not: nothingToTakeOut,
    act: () => takeOut('level'),
  },
  {
    id: 'group',
    group: 'Edit',
    says: 'Group',
    also: 'folder null together',
    keys: ['Ctrl+g'],
    not: nothingPicked,
    act: () => startPlan({ kind: 'group', at: 'middle', name: 'Group' }),
  },
  {
    id: 'ungroup',
    group: 'Edit',
    says: 'Ungroup',
    also: 'dissolve',
    keys: ['Ctrl+Shift+g'],
    not: () => nothingPicked() ?? (groupsPicked().length === 0 ? 'No group is picked.' : null),
    act: () => ungroup(),
  },
  {
    id: 'close',
    group: 'Edit',
    says: 'Close the group, or open it',
    also: 'lock members together',
    keys: [],
    not: () => nothingPicked() ?? (groupsPicked().length === 0 ? 'No group is picked.' : null),
    act: () => {
      const groups = groupsPicked();
      const { byId } = get();
      session.keep({ do: 'label', nodes: groups, closed: !byId.get(groups.at(-1)!)?.closed });
    },
  },
  {
    id: 'copies',
    group: 'Edit',
    says: 'Duplicate',
    also: 'copies array row ring grid instance clone',
    keys: ['Ctrl+d'],
    not: nothingPicked,
    act: () =>
      startPlan({ kind: 'copies', count: 1, steps: [usualStep()], across: null, mirror: null, sharing: false }),
  },
  {
    id: 'counterpart',
    group: 'Edit',
    says: 'Make a mirrored counterpart',
    also: 'duplicate symmetry flip',
    keys: [],
    not: nothingPicked,
    act: () =>
      startPlan({
        kind: 'copies',
        count: 1,
        steps: [],
        across: null,
        mirror: { axis: 'x', space: 'world', about: 'zero' },
        sharing: false,
      }),
  },
  {
    id: 'unshare',
    group: 'Edit',
    says: 'Make its shape its own',
    also: 'unlink unique independent instance',
    keys: [],
    not: () =>
      nothingPicked() ??
      (get().selection.some((id) => get().byId.get(id)?.shares) ? null : 'Nothing picked shares its shape.'),
    act: () => session.keep({ do: 'unshare', nodes: get().selection }),
  },
  {
    id: 'renameMany',
    group: 'Edit',
    says: 'Rename many by a pattern',
    also: 'batch numbering find replace prefix suffix',
    keys: [],
    not: nothingPicked,
    act: () =>
      startPlan({ kind: 'rename', name: '', find: '', replace: '', prefix: '', suffix: '', from: '', digits: 2 }),
  },
  {
    id: 'separate',
    group: 'Edit',
    says: 'Separate into pieces',
    also: 'split loose parts mesh',
    keys: [],
    not: nothingPicked,
    act: () => keepIfSure(['Separate', 'into pieces'], get().selection, { do: 'separate', nodes: get().selection }),
  },
  {
    id: 'join',
    group: 'Edit',
    says: 'Join into the lead',
    also: 'merge combine mesh',
    keys: [],
    not: () => nothingPicked() ?? (get().selection.length < 2 ? 'Pick at least two, the one that stays last.' : null),
    act: () => join(),
  },
  {
    id: 'collection.new',
    group: 'Edit',
    says: 'Make a collection of the picked',
    also: 'set layer',
    keys: [],
    act: () => newCollection(),
  },
  {
    id: 'collect',
    group: 'Edit',
    says: 'Put the picked into a collection, or take them out',
    also: 'set layer member add',
    keys: ['c'],
    not: nothingPicked,
    act: () => startCollecting(),
  },
  ...([-1, 1] as const).map((way): Command => ({
    id: way < 0 ? 'earlier' : 'later',
    group: 'Edit',
    says: way < 0 ? 'Move up among its siblings' : 'Move down among its siblings',
    also: 'order tree reorder',
    keys: [way < 0 ? 'Alt+ArrowUp' : 'Alt+ArrowDown'],
    not: nothingPicked,
    act: () => moveInOrder(way),
  })),
  {
    id: 'repeat',
    group: 'Edit',
    says: 'Do the last edit again, to what is picked',
    also: 'repeat again',
    keys: ['l'],
    not: () => nothingPicked() ?? (kept.edits.length === 0 ? 'Nothing was edited yet.' : null),
    act: () => repeat(),
  },
  {
    id: 'links',
    group: 'Page',
    says: 'Links: who rides on whom, as a diagram',
    also: 'graph hierarchy nodes schematic',
    keys: ['Shift+l'],
    act: () => set({ open: 'links' }),
  },
];

/** Why nothing can be taken out; null when something can. */
export function nothingToTakeOut(): string | null {
  const { selection, byId } = get();
  if (selection.some((id) => byId.get(id)?.parent)) return null;
  const name = byId.get(selection[0] ?? '')?.name;
  return (
    nothingPicked() ??
    (selection.length === 1 ? `Nothing carries ${name}: it is at the top already.` : 'These are at the top already.')
  );
}

function groupsPicked(): string[] {
  const { selection, byId } = get();
  return selection.filter((id) => byId.get(id)?.kind === 'group');
}

/** With several picked the lead is the parent; with one, the parent is asked for. */
export function putUnder(): void {
  const { selection } = get();
  if (selection.length < 2) {
    startPlan({ kind: 'under', keep: 'world', parent: null, waiting: true });
    return;
  }
  const parent = selection.at(-1)!;
  const nodes = selection.slice(0, -1);
  session.select(nodes);
  startPlan({ kind: 'under', keep: 'world', parent, waiting: false });
}

/** To the top, or to what carries their parent. */
export function takeOut(how: 'top' | 'level'): void {
  const { selection } = get();
  if (selection.length === 0) return;
  if (how === 'top') {
    session.keep({ do: 'putUnder', nodes: selection, parent: null });
    return;
  }
  const edits = session.core.oneLevelOut(selection);
  if (edits.length > 0) session.keep(...edits);
  else session.say({ kind: 'info', text: 'Nothing carries what is picked.' });
}

function ungroup(): void {
  const groups = groupsPicked();
  const inside = groups.flatMap((id) => get().children.get(id) ?? []);
  session.keepAndPick([{ do: 'ungroup', nodes: groups }], inside);
}

/** What the last edit meant, done to what is picked now; what that makes is picked. */
function repeat(): void {
  const edits = again(kept.edits, ask);
  const made = madeBy(edits);
  if (made.length > 0) session.keepAndPick(edits, made);
  else session.keep(...edits);
}

/** The lead changes its place in the order; nothing moves on the stage. */
function moveInOrder(way: -1 | 1): void {
  const { selection, byId } = get();
  const lead = byId.get(selection.at(-1)!);
  if (!lead) return;
  const edit = session.core.amongSiblings(lead.id, way);
  if (edit) session.keep(edit);
  else session.say({ kind: 'info', text: `${lead.name} is the ${way < 0 ? 'first' : 'last'} already.` });
}

/** Joins what is picked into the lead; where other shots show some of it otherwise, that is said first. */
function join(): void {
  if (get().plan?.kind === 'join') {
    keepPlan();
    return;
  }
  const nodes = get().selection;
  startIfSure({ kind: 'join', others: 'follow' }, () => session.keepAndPick([{ do: 'join', nodes }], nodes.slice(-1)));
}
