import type { OutlineRow } from '../../src/core/outline';
import { set } from '../../src/state/store';

/** A line of the tree that was made up. */
export function row(id: string, parent: string | null = null, more: Partial<OutlineRow> = {}): OutlineRow {
  return {
    id,
    slot: 0,
    parent,
    kind: 'shape',
    working: true,
    final: true,
    locked: false,
    drawn: 'full',
    closed: false,
    smart: false,
    noted: false,
    ownInShot: false,
    geometry: null,
    shares: null,
    color: null,
    collections: [],
    name: id,
    ...more,
  };
}

/** Shows a tree that was made up: its lines, parents before children. */
export function show(rows: OutlineRow[]): void {
  const children = new Map<string | null, string[]>();
  for (const { id, parent } of rows) children.set(parent, [...(children.get(parent) ?? []), id]);
  set({ rows, byId: new Map(rows.map((r) => [r.id, r])), children });
}
