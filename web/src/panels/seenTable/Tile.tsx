import { memo } from 'react';

/** Pixels of a cell, and how many cells a side of a tile has. */
export const [cellWide, cellHigh, side] = [30, 26, 16];

interface Signs {
  /** What a path is for: as in the scene on, as in the scene off, on, off. */
  '.': string;
  o: string;
  '+': string;
  '-': string;
}

/** A round dot and an oblong about a point, as paths. */
const dot = (x: number, y: number) => `M${x - 2.5} ${y}a2.5 2.5 0 1 0 5 0a2.5 2.5 0 1 0 -5 0z`;
const oblong = (x: number, y: number) =>
  `M${x - 4.25} ${y - 2.75}h8.5a2 2 0 0 1 2 2v1.5a2 2 0 0 1 -2 2h-8.5a2 2 0 0 1 -2 -2v-1.5a2 2 0 0 1 2 -2z`;

function signsOf(rows: string[]): Signs {
  const signs: Signs = { '.': '', o: '', '+': '', '-': '' };
  rows.forEach((cells, row) => {
    for (let column = 0; column < cells.length; column++) {
      const [x, y] = [(column + 0.5) * cellWide, (row + 0.5) * cellHigh];
      const state = cells[column] as keyof Signs;
      signs[state] += state === '.' || state === 'o' ? dot(x, y) : oblong(x, y);
      if (state === '-') signs['-'] += `M${x - 4} ${y + 2.75}l8 -5.5`;
    }
  });
  return signs;
}

function linesOf(rows: number, columns: number): string {
  const across = Array.from({ length: rows }, (_, i) => `M0 ${(i + 1) * cellHigh - 0.5}H${columns * cellWide}`);
  const down = Array.from({ length: columns }, (_, i) => `M${(i + 1) * cellWide - 0.5} 0V${rows * cellHigh}`);
  return [...across, ...down].join('');
}

/**
 * A square of cells as one picture of five paths. Elements of their own for hundreds of cells would be laid out anew with
 * each row that comes into view.
 */
export const Tile = memo(function Tile(props: {
  /** The states of its rows, one letter a cell, rows parted by spaces; an o is as in the scene, where that is off. */
  cells: string;
  left: number;
  top: number;
}) {
  const rows = props.cells.split(' ');
  const columns = rows[0]!.length;
  const signs = signsOf(rows);
  return (
    <svg
      aria-hidden
      className="seen-tile pointer-events-none absolute"
      style={{ left: props.left, top: props.top }}
      width={columns * cellWide}
      height={rows.length * cellHigh}
    >
      <path className="lines" d={linesOf(rows.length, columns)} />
      <path data-state="." d={signs['.']} />
      <path data-state="o" d={signs.o} />
      <path data-state="+" d={signs['+']} />
      <path data-state="-" d={signs['-']} />
    </svg>
  );
});
