import { keepIfSure, startPlan } from '../acts/planning';
import { newTie } from '../acts/ties';
import { session } from '../acts/session';
import { get, set } from '../state/store';
import type { TieKind } from '../state/plan';
import { nothingPicked, type Command } from './command';

/** Begins to add a constraint to what is picked. */
export function startTie(link: TieKind): void {
  startPlan(newTie(link));
}

/** The lead is to turn, the others are to tip. */
export function startMount(): void {
  startPlan({ kind: 'mount', target: null, facing: null, mend: false });
}

/** Stores what constraints of an object yield; what that does elsewhere is said first. */
export function bake(node: string, how: { upTo?: string; off?: boolean } = {}): void {
  keepIfSure([`Bake ${how.upTo ? 'constraints' : 'all constraints'} of`, ''], [node], {
    do: 'bake',
    nodes: [node],
    ...how,
  });
}

export function startDrive(): void {
  startPlan({ kind: 'drive' });
}

const marks = () => {
  const { selection, byId } = get();
  const mark = selection.find((id) => byId.get(id)?.kind === 'mark');
  return mark === undefined ? null : `${byId.get(mark)?.name} is a mark, which follows things by itself.`;
};

const severalPicked = (what: string) => () => nothingPicked() ?? (get().selection.length < 2 ? what : marks());

/** Commands that let objects go by others: constraints, turning once, set-ups in one go. */
export const linkingCommands: Command[] = [
  {
    id: 'lookAt',
    group: 'Edit',
    says: 'Look at something, and keep looking',
    also: 'aim track constraint camera lamp upright target',
    keys: ['Alt+l'],
    not: () => nothingPicked() ?? marks(),
    act: () => startTie('aim'),
  },
  {
    id: 'turnTo',
    group: 'Edit',
    says: 'Turn to something, once',
    also: 'look at aim point orient toward',
    keys: [],
    not: () => nothingPicked() ?? marks(),
    act: () => startTie('turnTo'),
  },
  {
    id: 'panAndTilt',
    group: 'Edit',
    says: 'Pan and tilt: the lead turns, the others tip to a target',
    also: 'mount turret fork swivel constraint rig',
    keys: [],
    not: severalPicked('Pick the parts that tip, and the base that turns last.'),
    act: startMount,
  },
  {
    id: 'giveLinks',
    group: 'Edit',
    says: "Give these the lead's links",
    also: 'copy constraints paste transfer',
    keys: [],
    not: () =>
      severalPicked('Pick those that get them, and the one that gives them last.')() ??
      ((get().lead?.node.constraints ?? []).length === 0
        ? `${get().lead?.node.name ?? 'The lead'} has no constraints to give.`
        : null),
    act: () => startPlan({ kind: 'give' }),
  },
  {
    id: 'drive',
    group: 'Edit',
    says: 'Drive with a controller',
    also: 'aim rig target null handle constraint',
    keys: [],
    not: () => nothingPicked() ?? marks(),
    act: startDrive,
  },
  {
    id: 'threads.all',
    group: 'View',
    says: 'All threads, or those of what is picked',
    also: 'constraints links lines show relations',
    keys: [],
    act: () => {
      const { allThreads } = get();
      set({ allThreads: !allThreads });
      session.say({
        kind: 'info',
        text: allThreads ? 'Threads of what is picked are shown.' : 'The threads of the whole scene are shown.',
      });
    },
  },
];
