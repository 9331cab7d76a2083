import { add, keepPlan, startPlan } from '../acts/planning';
import { session } from '../acts/session';
import { get, set } from '../state/store';
import { additions } from './additions';
import { nothingPicked, type Command } from './command';

/** Commands that change the scene. */
export const editCommands: Command[] = [
  { id: 'undo', group: 'Edit', says: 'Undo', keys: ['Ctrl+z'], act: () => void session.restore('undo') },
  {
    id: 'redo',
    group: 'Edit',
    says: 'Redo',
    keys: ['Ctrl+Shift+z', 'Ctrl+y'],
    act: () => void session.restore('redo'),
  },
  {
    id: 'aside',
    group: 'Edit',
    says: 'Try again what the server failed on',
    also: 'set aside retry',
    keys: [],
    not: () => (session.hasAside ? null : 'Nothing was set aside.'),
    act: () => session.tryAside(),
  },
  {
    id: 'off',
    group: 'Edit',
    says: 'Switch the picked off or on',
    also: 'hide visibility',
    keys: ['o'],
    not: nothingPicked,
    act: () => switchPicked(),
  },
  {
    id: 'final',
    group: 'Edit',
    says: 'Switch the picked off or on in the final picture',
    also: 'render visibility hide',
    keys: ['Ctrl+Shift+o'],
    not: nothingPicked,
    act: () => {
      const { selection, byId } = get();
      session.keep({ do: 'see', nodes: selection, final: !byId.get(selection.at(-1)!)?.final });
    },
  },
  {
    id: 'allOn',
    group: 'Edit',
    says: 'Switch all on',
    also: 'show unhide everything',
    keys: ['Shift+o'],
    act: () => {
      const off = [...get().rows, ...get().collections].filter((r) => !r.working);
      if (off.length > 0) session.keep({ do: 'see', nodes: off.map((r) => r.id), working: true });
      else session.say({ kind: 'info', text: 'Everything is on already.' });
    },
  },
  {
    id: 'lock',
    group: 'Edit',
    says: 'Lock or unlock the picked',
    keys: [],
    not: nothingPicked,
    act: () => {
      const { selection, byId } = get();
      session.keep({ do: 'lock', nodes: selection, on: !byId.get(selection.at(-1)!)?.locked });
    },
  },
  {
    id: 'remove',
    group: 'Edit',
    says: 'Remove',
    also: 'delete',
    keys: ['Delete', 'Backspace'],
    not: nothingPicked,
    act: () => removePicked(),
  },
  {
    id: 'rename',
    group: 'Edit',
    says: 'Rename',
    keys: ['F2'],
    not: nothingPicked,
    act: () => set({ renaming: get().selection.at(-1) ?? null }),
  },
  ...(['facets', 'smooth', 'asMade'] as const).map((how): Command => ({
    id: `normals.${how}`,
    group: 'Edit',
    says: {
      facets: 'Show the picked in facets',
      smooth: 'Show the picked smooth',
      asMade: 'Show the picked as they were made',
    }[how],
    also: 'flat shading normals',
    keys: [],
    not: () => nothingPicked() ?? (facesPicked() ? null : 'Nothing picked has faces.'),
    act: () => session.keep({ do: 'setNormals', nodes: get().selection, how }),
  })),
  ...additions.map(({ id, says, also, node }): Command => ({
    id: `add.${id}`,
    group: 'Edit',
    says: `Add a ${says.toLowerCase()}`.replace('a icoball', 'an icoball'),
    also: `new create ${also ?? ''}`,
    keys: [],
    act: () => add(node),
  })),
  ...additions
    .filter(({ node }) => node.kind === 'shape')
    .map(({ id, says }): Command => ({
      id: `draw.${id}`,
      group: 'Edit',
      says: `Draw a ${says.toLowerCase()} by eye`.replace('a icoball', 'an icoball'),
      also: 'new create interactive',
      keys: [],
      act: () => set({ drawing: id }),
    })),
];

const facesPicked = () => get().selection.some((id) => ['shape', 'mesh'].includes(get().byId.get(id)?.kind ?? ''));

/** What goes with it, or refers to it, is said first; a second press removes. */
export function removePicked(): void {
  const { selection, plan } = get();
  if (selection.length === 0) return;
  if (plan?.kind === 'remove') {
    keepPlan();
    return;
  }
  startPlan({ kind: 'remove', children: 'with' });
  // Nothing rides along and nothing refers to it: there is nothing to ask.
  if (get().foretold === null && get().notice === null) keepPlan();
}

function switchPicked(): void {
  const { selection, byId } = get();
  const lead = byId.get(selection.at(-1)!);
  // In one shot alone, off means out of its picture: the thing itself stays.
  session.keep(
    get().narrow
      ? { do: 'see', nodes: selection, final: !lead?.final }
      : { do: 'see', nodes: selection, working: !lead?.working },
  );
}
