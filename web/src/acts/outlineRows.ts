import type { OutlineRow } from '../core/outline';
import { forgetMarks } from './currentMark';
import { get, set } from '../state/store';

export const inTree = (row: OutlineRow) => row.kind !== 'mark' && row.kind !== 'collection';

/** Large scenes begin with their branches closed, except for the first two levels. */
export function closedAtFirst(rows: OutlineRow[]): Set<string> {
  const depth = new Map<string | null, number>([[null, 0]]);
  const closed = new Set<string>();
  for (const row of rows) {
    const level = (depth.get(row.parent) ?? 0) + 1;
    depth.set(row.id, level);
    if (level >= 2) closed.add(row.id);
  }
  return closed;
}

/** Takes in the whole tree with what stands beside it. */
export function readOutline(all: OutlineRow[]): void {
  const rows = all.filter(inTree);
  const marks = all.filter((r) => r.kind === 'mark');
  const collections = all.filter((r) => r.kind === 'collection');
  const byId = new Map<string, OutlineRow>();
  const children = new Map<string | null, string[]>();
  for (const row of rows) {
    byId.set(row.id, row);
    const list = children.get(row.parent);
    if (list) list.push(row.id);
    else children.set(row.parent, [row.id]);
  }
  for (const row of [...marks, ...collections]) byId.set(row.id, row);
  set({ rows, marks, collections, byId, children, memberships: get().memberships + 1 });
  forgetMarks();
}

/** Takes in lines of the tree that say something else, where nothing came, went or changed its seat. */
export function patchRows(changed: OutlineRow[]): void {
  const before = get().byId;
  const byId = new Map(before);
  for (const row of changed) byId.set(row.id, row);
  // A list in which nothing changed stays itself, so that what is made of it is not made anew.
  const patched = (rows: OutlineRow[], holds: (row: OutlineRow) => boolean) =>
    changed.some(holds) ? rows.map((row) => byId.get(row.id)!) : rows;
  const { rows, marks, collections, memberships } = get();
  set({
    byId,
    rows: patched(rows, inTree),
    marks: patched(marks, (r) => r.kind === 'mark'),
    collections: patched(collections, (r) => r.kind === 'collection'),
    memberships: memberships + (changed.some((row) => mayBelongElse(before.get(row.id), row)) ? 1 : 0),
  });
}

/** Whether what a row says decides who belongs to which collection: switches do not. */
function mayBelongElse(was: OutlineRow | undefined, now: OutlineRow): boolean {
  return (
    was?.name !== now.name ||
    was.kind !== now.kind ||
    was.parent !== now.parent ||
    was.smart !== now.smart ||
    was.geometry !== now.geometry ||
    was.collections.join() !== now.collections.join()
  );
}
