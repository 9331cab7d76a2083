import type { Repeat } from '../wire/apiTypes';
import type { Vec3, Edit } from '../core/answers';
import { aboutOf, spaceOf } from './edits';
import { tieEdits } from './ties';
import { standsAlone, type CopyStep, type MirrorPlane, type Plan } from '../state/plan';
import { get, type PageState } from '../state/store';
import { onRenewal } from '../state/renewal';

/** What plans ask of the core and the stage. */
export interface Ask {
  viewWorld(): number[];
  /** The objects without those that ride on another of them. */
  tops(ids: string[]): string[];
  /** How many objects one step makes at most. */
  mostCopies(): number;
}

/** Ids of copies last as long as the plan, so that the preview and the kept step make the same ones. */
const ids: string[] = [];

function idAt(i: number): string {
  while (ids.length <= i) ids.push(crypto.randomUUID());
  return ids[i]!;
}

/** A plan that begins makes ids of its own. */
export function freshIds(): void {
  ids.length = 0;
}

/** The edits that a plan would make of what is picked; null: something is still missing. */
export function editsOf(plan: Plan, ask: Ask, state: PageState = get()): Edit[] | null {
  const nodes = state.selection;
  if (nodes.length === 0 && !standsAlone(plan)) return null;
  switch (plan.kind) {
    case 'under': {
      if (plan.waiting) return null;
      return [{ do: 'putUnder', nodes, parent: plan.parent, keep: plan.keep }];
    }
    case 'group':
      return [{ do: 'group', nodes, name: plan.name, at: plan.at, id: idAt(0) }];
    case 'add': {
      const hosts = ask.tops(nodes.filter((id) => state.byId.get(id)?.kind !== 'mark'));
      const mark = state.currentMark;
      const at = plan.at ? { point: plan.at } : mark !== null && state.byId.has(mark) ? { mark } : null;
      if (plan.where === null) return [{ do: 'create', node: { ...plan.node, id: idAt(0) }, ...(at ? { at } : {}) }];
      if (hosts.length === 0) return null;
      const ids = hosts.map((_, i) => idAt(i));
      // Where it stands follows from what it is added to.
      const { placement: _, ...node } = plan.node;
      return [
        {
          do: 'add',
          node,
          nodes: hosts,
          where: plan.where,
          ids,
          ...(at && plan.where !== 'around' ? { at } : {}),
          view: ask.viewWorld(),
        },
      ];
    }
    case 'collect':
      return plan.collection === null
        ? [newCollectionOf(idAt(0), state)]
        : [{ do: 'collect', nodes, collection: plan.collection, member: plan.member }];
    case 'tie':
      return tieEdits(plan, nodes);
    case 'mount': {
      const [base, tips] = [nodes.at(-1)!, nodes.slice(0, -1)];
      if (plan.target === null) return null;
      return [
        {
          do: 'panAndTilt',
          base,
          tips,
          target: plan.target,
          ...(plan.facing === null ? {} : { facing: plan.facing }),
          ...(plan.mend ? { mend: true } : {}),
        },
      ];
    }
    case 'give':
      return [{ do: 'giveLinks', from: nodes.at(-1)!, to: nodes.slice(0, -1) }];
    case 'drive':
      return [{ do: 'drive', nodes, id: idAt(0) }];
    case 'remove':
      return [{ do: 'remove', nodes, children: plan.children }];
    case 'join':
      return [{ do: 'join', nodes, others: plan.others }];
    case 'sure':
      return plan.edits;
    case 'rename': {
      const from = Number.parseInt(plan.from, 10);
      return [
        {
          do: 'renameMany',
          nodes,
          ...(plan.name ? { name: plan.name } : {}),
          ...(plan.find ? { find: plan.find, replace: plan.replace } : {}),
          ...(plan.prefix ? { prefix: plan.prefix } : {}),
          ...(plan.suffix ? { suffix: plan.suffix } : {}),
          ...(Number.isNaN(from) ? {} : { from, digits: plan.digits }),
        },
      ];
    }
    case 'more': {
      const tops = ask.tops(nodes);
      const ids = Array.from({ length: Math.min(plan.count, ask.mostCopies()) }, (_, i) =>
        tops.map((_top, k) => idAt(i * tops.length + k)),
      );
      return [{ do: 'duplicate', nodes, count: plan.count, by: plan.by, ids }];
    }
    case 'copies': {
      const tops = ask.tops(nodes);
      const copies = (plan.count + 1) * ((plan.across?.count ?? 0) + 1) - 1;
      const by = plan.mirror
        ? [mirrorEdit(plan.mirror, ask, state)]
        : plan.steps.map((step) => stepEdit(step, ask, state));
      return [
        {
          do: 'duplicate',
          nodes,
          count: plan.count,
          by,
          ...(plan.across
            ? { across: { count: plan.across.count, by: [stepEdit(plan.across.step, ask, state)] } }
            : {}),
          sharing: plan.sharing,
          // Beyond what one step takes, the core says so, and needs no ids for that.
          ...(copies * tops.length <= ask.mostCopies()
            ? { ids: Array.from({ length: copies }, (_, i) => tops.map((_top, k) => idAt(i * tops.length + k))) }
            : {}),
        },
      ];
    }
  }
}

/** The same edits once more, to what is picked now; what they make gets ids of its own. */
export function again(edits: readonly Edit[], ask: Ask, state: PageState = get()): Edit[] {
  const nodes = state.selection;
  const tops = () => ask.tops(nodes);
  return edits.map((edit): Edit => {
    switch (edit.do) {
      case 'create': {
        // Something new goes beside what is picked now, not onto what was made before.
        const { id: _made, placement: _at, ...node } = edit.node;
        const hosts = tops();
        return { do: 'add', node, nodes: hosts, where: 'beside', ids: hosts.map(fresh), view: ask.viewWorld() };
      }
      case 'add': {
        const hosts = tops();
        return { ...edit, nodes: hosts, ids: hosts.map(fresh), view: ask.viewWorld() };
      }
      case 'group':
        return { ...edit, nodes, id: fresh() };
      case 'duplicate': {
        const copies = ((edit.count ?? 1) + 1) * ((edit.across?.count ?? 0) + 1) - 1;
        const each = tops();
        return { ...edit, nodes, ids: Array.from({ length: copies }, () => each.map(fresh)) };
      }
      case 'panAndTilt':
        return { ...edit, base: nodes.at(-1)!, tips: nodes.slice(0, -1) };
      case 'giveLinks':
        return { ...edit, to: nodes };
      case 'drive':
        return { ...edit, nodes, id: fresh() };
      default:
        return {
          ...edit,
          ...('id' in edit ? { id: undefined } : {}),
          ...('ids' in edit ? { ids: undefined } : {}),
          ...('nodes' in edit ? { nodes } : {}),
          ...('node' in edit && typeof edit.node === 'string' ? { node: nodes.at(-1) } : {}),
        } as Edit;
    }
  });
}

const fresh = () => crypto.randomUUID();

/** The ids of what a plan's edits make, to be picked once they are kept. */
export function madeBy([edit]: Edit[]): string[] {
  if (edit?.do === 'group' || edit?.do === 'drive') return [edit.id!];
  if (edit?.do === 'add') return edit.ids ?? [];
  if (edit?.do === 'create') return [edit.node.id!];
  if (edit?.do !== 'duplicate') return [];
  const made = edit.ids?.flat() ?? [];
  // The last copies lead on; all of a hundred would only be in the way.
  return made.length > 200 ? [edit.ids!.at(-1)!].flat() : made;
}

/** The edit that makes a collection of what is picked; marks cannot belong to it. */
export function newCollectionOf(id: string, { selection, byId }: PageState, under: string | null = null): Edit {
  const nodes = selection.filter((n) => byId.get(n)?.kind !== 'mark');
  return {
    do: 'collection',
    id,
    name: 'Collection',
    ...(under ? { under } : {}),
    ...(nodes.length > 0 ? { nodes } : {}),
  };
}

function mirrorEdit({ axis, space, about }: MirrorPlane, ask: Ask, state: PageState): Repeat {
  return {
    do: 'mirror',
    axis,
    space: spaceOf(space, state, () => ask.viewWorld()),
    about: aboutOf(about, state),
  };
}

function stepEdit(step: CopyStep, ask: Ask, state: PageState): Repeat {
  const space = spaceOf(step.space, state, () => ask.viewWorld());
  const along = (rest: number): Vec3 => [
    step.axis === 'x' ? step.amount : rest,
    step.axis === 'y' ? step.amount : rest,
    step.axis === 'z' ? step.amount : rest,
  ];
  if (step.do === 'move') return { do: 'move', by: along(0), space };
  const about = aboutOf(step.about, state);
  if (step.do === 'rotate') return { do: 'rotate', by: step.amount, axis: step.axis, space, about };
  return { do: 'scale', by: [step.amount, step.amount, step.amount], space, about };
}

onRenewal(() => {
  ids.length = 0;
});
