import type { DrawnAs, NodeKind } from './answers';
import { rowBits, rowColumn } from '../wire/bridgeTypes';

/** One line of the tree as the core lists it. */
export interface OutlineRow {
  id: string;
  slot: number;
  parent: string | null;
  kind: NodeKind;
  working: boolean;
  final: boolean;
  locked: boolean;
  drawn: DrawnAs;
  /** A press on a member picks this group. */
  closed: boolean;
  /** A collection with a rule. */
  smart: boolean;
  noted: boolean;
  /** Seen in the current shot otherwise than the scene says. */
  ownInShot: boolean;
  geometry: string | null;
  /** Nodes with the same word here share their shape. */
  shares: string | null;
  color: string | null;
  /** The collections that it was put into. */
  collections: string[];
  name: string;
}

/** Reads the tree in bulk: a line a node, as the core names its columns and bits. */
export function rowsOf(text: string): OutlineRow[] {
  const rows: OutlineRow[] = [];
  for (const line of text.split('\n')) {
    if (line.length === 0) continue;
    const cells = line.split('\t');
    const bits = Number(cells[rowColumn.bits]);
    const is = (bit: number) => (bits & bit) !== 0;
    const collections = cells[rowColumn.collections];
    rows.push({
      id: cells[rowColumn.id]!,
      slot: Number(cells[rowColumn.slot]),
      parent: cells[rowColumn.parent] || null,
      kind: cells[rowColumn.kind] as NodeKind,
      working: is(rowBits.working),
      final: is(rowBits.final),
      locked: is(rowBits.locked),
      drawn: is(rowBits.drawnAsBox) ? 'box' : is(rowBits.drawnAsWire) ? 'wire' : 'full',
      closed: is(rowBits.closed),
      smart: is(rowBits.smart),
      noted: is(rowBits.noted),
      ownInShot: is(rowBits.ownInShot),
      geometry: cells[rowColumn.geometry] || null,
      shares: cells[rowColumn.shares] || null,
      color: cells[rowColumn.color] || null,
      collections: collections ? collections.split(',') : [],
      name: cells.slice(rowColumn.name).join(' '),
    });
  }
  return rows;
}
