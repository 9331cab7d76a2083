import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useEffect, useMemo, useRef, useState, type PointerEvent } from 'react';
import { session } from '../../acts/session';
import { OverStage } from '../../controls/OverStage';
import type { SeenRow, SeenTable as Table } from '../../wire/bridgeTypes';
import { useStore } from '../../state/store';
import { after, boxOf, edits, inBox, words, type Cell, type State, states } from './sweep';
import { cellHigh, cellWide, side, Tile } from './Tile';

/** Pixels of the table beside its cells. */
const [nameWide, headHigh] = [216, 76];

/** What is seen in which shot: collections and what is picked against shots, three states a cell, swept by dragging. */
export function SeenTable() {
  return useStore((s) => s.open === 'seen') ? <Seen /> : null;
}

function Seen() {
  const selection = useStore((s) => s.selection);
  const [shots, sight, byId, collections] = [
    useStore((s) => s.shots),
    useStore((s) => s.sight),
    useStore((s) => s.byId),
    useStore((s) => s.collections),
  ];
  const table = useMemo(
    () => session.core.seenTable(selection.slice(-2000)),
    [selection, shots, sight, byId, collections],
  );
  const [at, setAt] = useState<Cell>({ row: 0, column: 0 });
  const note = useNote(table, useRested(at));
  const empty = table.columns.length === 0 || table.rows.length === 0;
  return (
    <OverStage
      title="Seen by shot"
      remark={
        empty
          ? table.columns.length === 0
            ? 'There are no shots yet.'
            : 'There are no collections, and nothing is picked.'
          : note
      }
    >
      {!empty && <Cells table={table} at={at} setAt={setAt} />}
      <footer className="flex flex-wrap gap-4 border-t border-line px-3 py-1.5 text-ink-2">
        {states.map((state) => (
          <span key={state} className="flex items-center gap-1.5">
            <Sign state={state} final /> {words[state]}
          </span>
        ))}
        <span className="ml-auto">Press or sweep cells · Space steps, + − . set · Shift+arrows widen</span>
      </footer>
    </OverStage>
  );
}

/** The cell where it has rested for a moment: what is swept over is not asked of one by one. */
function useRested(cell: Cell): Cell {
  const [rested, setRested] = useState(cell);
  useEffect(() => {
    const soon = setTimeout(() => setRested(cell), 120);
    return () => clearTimeout(soon);
  }, [cell]);
  return rested;
}

/** What stands in a cell, and whether the picture shows it, told by the core. */
function useNote(table: Table, at: Cell): string {
  const [column, row] = [table.columns[at.column], table.rows[at.row]];
  return useMemo(() => {
    const reading = column && row ? session.core.seenCell(column.shot, row.id) : null;
    if (!reading || !column || !row) return '';
    return `${row.name} in ${column.title}: ${words[row.cells[at.column] as State]}${reading.seen ? ', seen' : ` · ${reading.why ?? 'not seen'}`}`;
  }, [column, row, at.column]);
}

function Cells({ table, at, setAt }: { table: Table; at: Cell; setAt: (cell: Cell) => void }) {
  const scroller = useRef<HTMLDivElement>(null);
  const [from, setFrom] = useState<Cell | null>(null);
  const [swept, setSwept] = useState<State | null>(null);
  const { rows, columns } = table;
  const down = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => cellHigh,
    scrollMargin: headHigh,
    useFlushSync: false,
    overscan: 4,
  });
  const across = useVirtualizer({
    horizontal: true,
    count: columns.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => cellWide,
    scrollMargin: nameWide,
    useFlushSync: false,
    overscan: 4,
  });
  const box = boxOf(from ?? at, at);
  const shown = across.getVirtualItems();
  const lines = down.getVirtualItems();
  const make = (state: State, which = box) => {
    const made = edits(table, which, state);
    if (made) session.keep(made);
  };
  const go = (cell: Cell, widen: boolean) => {
    const row = Math.min(rows.length - 1, Math.max(0, cell.row));
    const column = Math.min(columns.length - 1, Math.max(0, cell.column));
    setFrom(widen ? (from ?? at) : null);
    setAt({ row, column });
    down.scrollToIndex(row);
    across.scrollToIndex(column);
  };
  const under = (e: PointerEvent<HTMLElement>): Cell => {
    const area = scroller.current!;
    const bounds = area.getBoundingClientRect();
    const { scrollLeft, scrollTop } = area;
    // What is swept to the edge brings the next cells into view.
    const way = (at: number, low: number, high: number) => (at > high - 12 ? 1 : at < low + 6 && swept ? -1 : 0);
    const right = cellWide * way(e.clientX, bounds.left + nameWide, bounds.right);
    const down = cellHigh * way(e.clientY, bounds.top + headHigh, bounds.bottom);
    if (right || down) area.scrollBy(right, down);
    const x = e.clientX - bounds.left + scrollLeft + right - nameWide;
    const y = e.clientY - bounds.top + scrollTop + down - headHigh;
    return {
      row: Math.min(rows.length - 1, Math.max(0, Math.floor(y / cellHigh))),
      column: Math.min(columns.length - 1, Math.max(0, Math.floor(x / cellWide))),
    };
  };
  const keys: Record<string, (widen: boolean) => void> = {
    ArrowRight: (widen) => go({ ...at, column: at.column + 1 }, widen),
    ArrowLeft: (widen) => go({ ...at, column: at.column - 1 }, widen),
    ArrowDown: (widen) => go({ ...at, row: at.row + 1 }, widen),
    ArrowUp: (widen) => go({ ...at, row: at.row - 1 }, widen),
    Home: (widen) => go({ ...at, column: 0 }, widen),
    End: (widen) => go({ ...at, column: columns.length - 1 }, widen),
    PageDown: (widen) => go({ ...at, row: at.row + 15 }, widen),
    PageUp: (widen) => go({ ...at, row: at.row - 15 }, widen),
    ' ': () => make(after(rows[at.row]!.cells[at.column] as State)),
    Enter: () => make(after(rows[at.row]!.cells[at.column] as State)),
    '+': () => make('+'),
    '-': () => make('-'),
    '.': () => make('.'),
  };
  // The cell in focus is told to who cannot see it.
  const focused = `seen-${at.row}-${at.column}`;
  return (
    <div
      ref={scroller}
      className="relative min-h-0 flex-1 overflow-auto outline-none focus-visible:ring-2 focus-visible:ring-plum"
      role="grid"
      aria-label="Collections and picked objects against shots"
      aria-rowcount={rows.length + 1}
      aria-colcount={columns.length + 1}
      aria-activedescendant={focused}
      tabIndex={0}
      data-seen-table
      onKeyDown={(e) => {
        const act = keys[e.key];
        if (!act || e.ctrlKey || e.metaKey || e.altKey || (e.target as HTMLElement).tagName === 'BUTTON') return;
        e.preventDefault();
        e.stopPropagation();
        act(e.shiftKey);
      }}
    >
      <div
        className="relative"
        style={{ width: nameWide + across.getTotalSize(), height: headHigh + down.getTotalSize() }}
        onPointerDown={(e) => {
          const bounds = scroller.current!.getBoundingClientRect();
          if (e.button !== 0 || e.clientX - bounds.left < nameWide || e.clientY - bounds.top < headHigh) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          const cell = under(e);
          setFrom(cell);
          setAt(cell);
          setSwept(after(rows[cell.row]!.cells[cell.column] as State));
        }}
        onPointerMove={(e) => {
          if (swept === null) return;
          const cell = under(e);
          if (cell.row !== at.row || cell.column !== at.column) setAt(cell);
        }}
        onPointerUp={() => {
          if (swept !== null) make(swept);
          setSwept(null);
          setFrom(null);
        }}
        onPointerCancel={() => {
          setSwept(null);
          setFrom(null);
        }}
      >
        <div role="row" className="sticky top-0 z-20 bg-paper" style={{ height: headHigh }}>
          <span
            role="columnheader"
            className="sticky left-0 z-10 block h-full border-r border-b border-line bg-paper px-2 pt-12 text-ink-2"
            style={{ width: nameWide }}
          >
            {rows.length} by {columns.length}
          </span>
          {shown.map((item) => {
            const column = columns[item.index]!;
            return (
              <Head
                key={column.shot}
                column={column}
                left={item.start}
                whole={() => {
                  const state = after(rows[0]!.cells[item.index] as State);
                  make(state, boxOf({ row: 0, column: item.index }, { row: rows.length - 1, column: item.index }));
                }}
              />
            );
          })}
        </div>
        {lines.length > 0 && shown.length > 0 && (
          <Tiles
            rows={rows}
            top={tileOf(lines[0])}
            bottom={tileOf(lines.at(-1))}
            left={tileOf(shown[0])}
            right={tileOf(shown.at(-1))}
          />
        )}
        {lines.map((item) => (
          <Row
            key={rows[item.index]!.id}
            row={rows[item.index]!}
            index={item.index}
            top={item.start}
            whole={() => {
              const state = after(rows[item.index]!.cells[0] as State);
              make(state, boxOf({ row: item.index, column: 0 }, { row: item.index, column: columns.length - 1 }));
            }}
          />
        ))}
        <div
          aria-hidden
          className={`pointer-events-none absolute z-10 rounded-[3px] border-2 border-plum ${swept === null ? '' : 'bg-wash/60'}`}
          style={{
            left: nameWide + box.left * cellWide,
            top: headHigh + box.top * cellHigh,
            width: (box.right - box.left + 1) * cellWide,
            height: (box.bottom - box.top + 1) * cellHigh,
          }}
        />
        {swept !== null && (
          <span
            aria-hidden
            className="pointer-events-none absolute z-10"
            style={{ left: nameWide + at.column * cellWide + 8, top: headHigh + at.row * cellHigh + 8 }}
          >
            <Sign state={swept} final />
          </span>
        )}
        <Announced table={table} cell={at} id={focused} wide={inBox(box) > 1 ? inBox(box) : 0} />
      </div>
    </div>
  );
}

/** Which tile, counted along one side, something lies in. */
const tileOf = (item: { index: number } | undefined) => Math.floor((item?.index ?? 0) / side);

const range = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, i) => from + i);

/** The tiles that are in view; the same until another one comes. */
const Tiles = memo(function Tiles(props: {
  rows: SeenRow[];
  top: number;
  bottom: number;
  left: number;
  right: number;
}) {
  const { rows, top, bottom, left, right } = props;
  return range(top, bottom).flatMap((r) =>
    range(left, right).map((c) => (
      <Tile
        key={`${r} ${c}`}
        cells={cellsOf(rows.slice(r * side, (r + 1) * side), c * side)}
        left={nameWide + c * side * cellWide}
        top={headHigh + r * side * cellHigh}
      />
    )),
  );
});

/** What stands in a tile. */
const cellsOf = (rows: SeenRow[], from: number): string =>
  rows
    .map(({ cells, final }) => {
      const own = cells.slice(from, from + side);
      return final ? own : own.replaceAll('.', 'o');
    })
    .join(' ');

/** The cell in focus, for who cannot see it, be it drawn or not. */
function Announced({ table, cell, id, wide }: { table: Table; cell: Cell; id: string; wide: number }) {
  const [row, column] = [table.rows[cell.row], table.columns[cell.column]];
  if (!row || !column) return null;
  return (
    <div role="row" className="sr-only">
      <span role="gridcell" id={id} aria-rowindex={cell.row + 2} aria-colindex={cell.column + 2}>
        {`${row.name}, ${column.title}: ${words[row.cells[cell.column] as State]}${wide > 0 ? `, ${wide} cells` : ''}`}
      </span>
    </div>
  );
}

const Head = memo(
  function Head({ column, left, whole }: { column: Table['columns'][number]; left: number; whole: () => void }) {
    return (
      <span
        role="columnheader"
        className="absolute bottom-0 border-b border-line [contain:layout_style]"
        style={{ left, width: cellWide, height: headHigh }}
      >
        <button
          type="button"
          tabIndex={-1}
          className="h-full w-full truncate py-1 hover:text-plum"
          style={{ writingMode: 'vertical-rl', transform: 'rotate(180deg)' }}
          title={`${column.title}: the whole column, as its first cell is stepped`}
          onClick={whole}
        >
          {column.title}
        </button>
      </span>
    );
  },
  (a, b) => a.column === b.column && a.left === b.left,
);

interface RowProps {
  row: SeenRow;
  index: number;
  top: number;
  whole: () => void;
}

const Row = memo(
  function Row({ row, index, top, whole }: RowProps) {
    return (
      <div
        role="row"
        aria-rowindex={index + 2}
        className="absolute left-0 w-full [contain:layout_style]"
        style={{ top, height: cellHigh }}
      >
        <span
          role="rowheader"
          className="sticky left-0 z-10 block border-r border-line bg-paper"
          style={{ width: nameWide, height: cellHigh }}
        >
          <button
            type="button"
            tabIndex={-1}
            className="flex h-full w-full items-center truncate text-left hover:text-plum"
            style={{ paddingLeft: 8 + row.depth * 14 }}
            title={`${row.name}: the whole row, as its first cell is stepped`}
            onClick={whole}
          >
            <span className="truncate">{row.name}</span>
            <span className="ml-auto shrink-0 pr-2 pl-2 text-[11px] text-ink-2">
              {row.isCollection ? 'collection' : ''}
            </span>
          </button>
        </span>
      </div>
    );
  },
  (a, b) =>
    // What a press makes of the whole row is of the table that the row is from.
    a.row === b.row && a.index === b.index && a.top === b.top,
);

/** A state as a shape of its own: as in the scene a dot (hollow where the scene has it off), on a full oblong, off a crossed one. */
function Sign({ state, final }: { state: State; final: boolean }) {
  return <i className="seen-sign" data-state={state === '.' && !final ? 'o' : state} aria-hidden />;
}
