import type { Edit } from '../core/answers';
import { addToIsolation, isolate, leaveOutOfIsolation, toggleIsolation } from '../acts/isolating';
import { session } from '../acts/session';
import { ownSettings } from '../state/ownSettings';
import { get } from '../state/store';
import { above, branchOf, othersOf } from '../state/branches';
import { nothingPicked, type Command } from './command';

/** Commands about what is seen, and how. */
export const seeingCommands: Command[] = [
  {
    id: 'isolate',
    group: 'View',
    says: 'Isolate the picked, or show everything again',
    also: 'solo local only',
    keys: ['i'],
    act: () => toggleIsolation(),
  },
  {
    id: 'isolate.add',
    group: 'View',
    says: 'Add the picked to the isolation',
    keys: [],
    not: () => nothingPicked() ?? (get().isolation ? null : 'Nothing is isolated.'),
    act: () => addToIsolation(),
  },
  {
    id: 'isolate.out',
    group: 'View',
    says: 'Leave the picked out of the isolation',
    keys: [],
    not: () => nothingPicked() ?? (get().isolation ? null : 'Nothing is isolated.'),
    act: () => leaveOutOfIsolation(),
  },
  {
    id: 'isolate.dim',
    group: 'View',
    says: 'Dim the rest, or leave it out',
    also: 'fade isolate',
    keys: ['Shift+i'],
    act: () => {
      const { isolation, selection } = get();
      if (isolation) isolate(isolation.ids, isolation.withBranch, !isolation.dim);
      else if (selection.length > 0) isolate(selection, true, true);
      else session.say({ kind: 'info', text: 'Pick what is to stand out.' });
    },
  },
  {
    id: 'mates',
    group: 'View',
    says: 'Show the other members of its collection, or not',
    also: 'mates outline colour set',
    keys: [],
    act: () => session.saveSettings({ mates: !ownSettings().mates }),
  },
  {
    id: 'onlyPicked',
    group: 'Edit',
    says: 'Switch only the picked on',
    also: 'hide others unselected',
    keys: [],
    not: nothingPicked,
    act: () => onlyPicked(),
  },
  ...(['full', 'wire', 'box', 'controller'] as const).map((as): Command => ({
    id: `drawn.${as}`,
    group: 'Edit',
    says: {
      full: 'Draw the picked in full',
      wire: 'Draw the picked as wires',
      box: 'Draw the picked as boxes',
      controller: 'Make controllers of the picked shapes',
    }[as],
    also: 'display bounding shading wireframe control rig',
    keys: [],
    not: as === 'controller' ? noShapes : nothingPicked,
    act: () => session.keep({ do: 'draw', nodes: get().selection, as }),
  })),
];

/** On: the picked, what they carry and what carries them. Off: everything else. */
function onlyPicked(): void {
  const state = get();
  const { selection, byId } = state;
  const off = othersOf(state, selection).filter((id) => byId.get(id)!.working && byId.get(id)!.kind !== 'light');
  const on = new Set([...branchOf(state, selection), ...selection.flatMap((id) => above(state, id))]);
  const shown = [...on].filter((id) => !byId.get(id)!.working);
  const see = (nodes: string[], working: boolean): Edit[] => (nodes.length > 0 ? [{ do: 'see', nodes, working }] : []);
  const edits = [...see(off, false), ...see(shown, true)];
  if (edits.length > 0) session.keep(...edits);
  else session.say({ kind: 'info', text: 'Only these are on already.' });
}

/** Only shapes made from parameters serve as controllers. */
function noShapes(): string | null {
  const { selection, byId } = get();
  return (
    nothingPicked() ??
    (selection.every((id) => byId.get(id)?.kind === 'shape')
      ? null
      : 'Only shapes serve as controllers: pick shapes alone.')
  );
}
