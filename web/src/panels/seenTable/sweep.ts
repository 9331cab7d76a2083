import type { Edit } from '../../core/answers';
import type { SeenTable } from '../../wire/bridgeTypes';

/** The states of a cell as the core writes them: as in the scene, on, off. */
export type State = '.' | '+' | '-';
export const states: State[] = ['.', '+', '-'];
export const words: Record<State, string> = { '.': 'as in the scene', '+': 'on', '-': 'off' };

export interface Cell {
  row: number;
  column: number;
}

/** Cells from one corner to another, both with it. */
export interface Box {
  top: number;
  bottom: number;
  left: number;
  right: number;
}

/** What a press makes of a state: off first, which is what shots are mostly told. */
export const after = (state: State): State => (state === '.' ? '-' : state === '-' ? '+' : '.');

export const boxOf = (a: Cell, b: Cell): Box => ({
  top: Math.min(a.row, b.row),
  bottom: Math.max(a.row, b.row),
  left: Math.min(a.column, b.column),
  right: Math.max(a.column, b.column),
});

export const inBox = (box: Box): number => (box.bottom - box.top + 1) * (box.right - box.left + 1);

/** The edit that brings all cells of a box to one state; null: they are in it. */
export function edits(table: SeenTable, box: Box, state: State): Edit | null {
  const columns = table.columns.slice(box.left, box.right + 1);
  const rows = table.rows.slice(box.top, box.bottom + 1);
  const width = box.right - box.left + 1;
  if (rows.every((row) => row.cells.slice(box.left, box.right + 1) === state.repeat(width))) return null;
  return {
    do: 'seeIn',
    shots: columns.map((c) => c.shot),
    of: rows.map((r) => r.id),
    ...(state === '.' ? {} : { on: state === '+' }),
  };
}
