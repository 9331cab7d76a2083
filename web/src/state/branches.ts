import type { PageState } from './store';

/** Walks along the tree as the page shows it. What an edit does with a branch is the core's to say. */

/** What carries an object, nearest first; of a collection, what lies around it. */
export function above({ byId }: Pick<PageState, 'byId'>, id: string): string[] {
  const found: string[] = [];
  for (let at = byId.get(id)?.parent ?? null; at !== null; at = byId.get(at)?.parent ?? null) found.push(at);
  return found;
}

/** Objects with all that they carry, parents before children, each once. */
export function branchOf({ children }: Pick<PageState, 'children'>, ids: Iterable<string>): string[] {
  const found = new Set<string>();
  const walk = [...ids].toReversed();
  for (let id = walk.pop(); id !== undefined; id = walk.pop()) {
    if (found.has(id)) continue;
    found.add(id);
    walk.push(...(children.get(id) ?? []).toReversed());
  }
  return [...found];
}

/** All but some branches and what carries them, each by the topmost that carries none of these. */
export function othersOf(state: Pick<PageState, 'byId' | 'children' | 'rows'>, ids: string[]): string[] {
  const kept = new Set([...branchOf(state, ids), ...ids.flatMap((id) => above(state, id))]);
  return state.rows.filter((r) => !kept.has(r.id) && (r.parent === null || kept.has(r.parent))).map((r) => r.id);
}

/** Whether an object rides on something picked. */
export function ridesAlong(state: Pick<PageState, 'byId' | 'selection'>, id: string): boolean {
  const picked = new Set(state.selection);
  return above(state, id).some((at) => picked.has(at));
}
