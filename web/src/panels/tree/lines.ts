import { session } from '../../acts/session';
import { get, isLocked, isSeen, noFilter, set, type PageState } from '../../state/store';

/** A row that the tree shows. */
export interface Line {
  id: string;
  depth: number;
  open: boolean | null;
}

function flatten(children: PageState['children'], closed: Set<string>): Line[] {
  const lines: Line[] = [];
  const walk: { id: string; depth: number }[] = (children.get(null) ?? []).map((id) => ({ id, depth: 0 })).toReversed();
  for (let at = walk.pop(); at; at = walk.pop()) {
    const below = children.get(at.id);
    const open = below ? !closed.has(at.id) : null;
    lines.push({ ...at, open });
    if (open) for (const id of below!.toReversed()) walk.push({ id, depth: at.depth + 1 });
  }
  return lines;
}

/** The rows that the tree shows now, in order. */
export function shownLines(): Line[] {
  return filtered(get());
}

/** With a filter: what fits, and what carries it, all open. */
export function filtered(state: PageState): Line[] {
  const { rows, byId, children, closed, treeFilter: f } = state;
  if (f === noFilter) return flatten(children, closed);
  const text = f.text.trim().toLowerCase();
  const members = f.collection === null ? null : new Set(session.core.membersOf(f.collection));
  const shown = new Set<string>();
  for (const row of rows) {
    const fits =
      (f.kind === 'all' || row.kind === f.kind) &&
      (text === '' || row.name.toLowerCase().includes(text)) &&
      (f.only === 'all' ||
        (f.only === 'hidden'
          ? !isSeen(state, row)
          : f.only === 'locked'
            ? isLocked(state, row)
            : row.shares !== null)) &&
      (members === null || members.has(row.id));
    for (let at: string | null = fits ? row.id : null; at !== null && !shown.has(at); at = byId.get(at)?.parent ?? null)
      shown.add(at);
  }
  const kept = new Map(
    [...children]
      .map(([id, list]) => [id, list.filter((c) => shown.has(c))] as const)
      .filter(([, list]) => list.length > 0),
  );
  return flatten(kept, new Set());
}

export function toggle(id: string): void {
  const closed = new Set(get().closed);
  if (!closed.delete(id)) closed.add(id);
  set({ closed });
}
