import { DropdownMenu } from 'radix-ui';
import { floating } from '../../controls/floating';
import { memo, useRef } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Tried, Channel, Common, NodeAnswer, Edit } from '../../core/answers';
import { copyPlacement, pastePlacement, sendToZero, takeShearOut } from '../../commands/placing';
import { session } from '../../acts/session';
import { get, orders, set, useStore } from '../../state/store';
import { NumberField, ScrubLabel, type Quantity } from '../../controls/NumberField';
import { angle, factor, length } from '../../controls/numbers';
import { Section } from '../../controls/Section';

const letters = ['X', 'Y', 'Z'];

const rest: Record<Channel, number> = { position: 0, rotation: 0, scale: 1, size: 1 };

interface Row {
  channel: Channel;
  word: string;
  quantity: Quantity;
  shown: (v: number) => string;
  unit: string;
}

/** Position, rotation and scale (or size) of what is picked: as stored or in the world; equal values, else "mixed". */
export function PlacementPanel({ lead }: { lead: NodeAnswer }) {
  const { unit, selection, readIn, asSize } = useStore(
    useShallow((s) => ({ unit: s.scene?.unit ?? 'm', selection: s.selection, readIn: s.readIn, asSize: s.asSize })),
  );
  const parent = useStore((s) => (lead.node.parent ? s.byId.get(lead.node.parent)?.name : null));
  const said = useStore((s) => JSON.stringify(s.settings.numbers ?? null));
  const mark = lead.node.kind === 'mark';
  const { placement } = lead.node;
  const many = selection.length > 1;
  // One object as stored stands in the lead already; everything else is the core's to read.
  const read = many || readIn === 'world' || asSize;
  const common = useCommon(read ? selection : [], readIn === 'world', asSize);
  const rows: Row[] = [
    { channel: 'position', word: 'Position', quantity: 'length', shown: (v) => length(v, unit), unit },
    { channel: 'rotation', word: 'Rotation', quantity: 'angle', shown: angle, unit: '°' },
  ];
  if (!mark)
    rows.push(
      asSize
        ? { channel: 'size', word: 'Size', quantity: 'length', shown: (v) => length(v, unit), unit }
        : { channel: 'scale', word: 'Scale', quantity: 'factor', shown: factor, unit: '×' },
    );
  const numbers = (channel: Channel): (number | null)[] =>
    common ? common[channel] : channel === 'size' ? [null, null, null] : placement[channel];
  const remark = readIn === 'world' ? 'in the world' : parent ? `as stored, in ${parent}` : 'as stored, in the world';

  return (
    <Section title="Placement" remark={remark}>
      <div className="mb-2 flex flex-wrap items-center gap-1">
        <Mode
          word={readIn === 'world' ? 'In the world' : 'As stored'}
          title="Read and type as stored, in the parent, or in the world"
          on={readIn === 'world'}
          flip={() => set({ readIn: readIn === 'world' ? 'parent' : 'world' })}
        />
        {!mark && (
          <Mode
            word={asSize ? 'Size' : 'Factor'}
            title="Scale as a factor, or as the size of the bounds"
            on={asSize}
            flip={() => set({ asSize: !asSize })}
          />
        )}
        <More />
      </div>
      <div className="grid grid-cols-[62px_1fr_1fr_1fr] items-center gap-x-0.5 gap-y-1.5">
        {rows.map((row) => (
          <RowOf
            key={row.channel}
            row={row}
            of={`${selection.join()} ${readIn}`}
            said={said}
            stored={!read}
            numbers={numbers(row.channel)}
          />
        ))}
      </div>
      {!mark && <Order order={common ? common.order : placement.order} away={lead.liningUp} />}
      {lead.liningUp < session.core.limits.linesUpBelow && (
        <p className="m-0 mt-1 text-warning">△ Two rotation axes line up here; one turn now does the work of two.</p>
      )}
      {placement.shear.some((s) => Math.abs(s) > 1e-9) && <Shear lead={lead} />}
    </Section>
  );
}

/** What the picked have in common. Of very many, the values are read again when a drag rests. */
function useCommon(selection: string[], world: boolean, size: boolean): Common | null {
  const last = useRef<{ selection: string[]; world: boolean; common: Common } | null>(null);
  const trying = useStore((s) => s.trying);
  if (selection.length === 0) return null;
  const known = last.current;
  if (trying && selection.length > 300 && known?.selection === selection && known.world === world) return known.common;
  const common = session.core.channelsOf(selection, world, size);
  last.current = { selection, world, common };
  return common;
}

function Mode({ word, title, on, flip }: { word: string; title: string; on: boolean; flip: () => void }) {
  return (
    <button type="button" className={`btn ${on ? 'border-plum bg-wash text-plum' : ''}`} title={title} onClick={flip}>
      {word}
    </button>
  );
}

/** The edit that sets or changes one value of a channel for all that is picked. */
function setEdit(channel: Channel, values: (number | null)[], mode: 'set' | 'add' | 'multiply' = 'set'): Edit {
  const { selection, readIn } = get();
  return { do: 'set', nodes: selection, channel, values, mode, in: readIn };
}

function one(axis: number, value: number): (number | null)[] {
  return [0, 1, 2].map((i) => (i === axis ? value : null));
}

/** One is set to a value; of several each changes by itself, and what rides on another of them only with it. */
function scrubbed(channel: Channel, axis: number, value: number, by: number): Edit {
  return get().selection.length > 1 ? setEdit(channel, one(axis, by), 'add') : setEdit(channel, one(axis, value));
}

const RowOf = memo(
  ChannelRow,
  (a, b) =>
    a.of === b.of &&
    a.stored === b.stored &&
    a.row.unit === b.row.unit &&
    a.said === b.said &&
    a.numbers.join() === b.numbers.join(),
);

/** @param stored One object as it is stored, so that a drag can be followed. */
function ChannelRow({
  row,
  numbers,
  stored,
}: {
  row: Row;
  of: string;
  said: string;
  stored: boolean;
  numbers: (number | null)[];
}) {
  const { channel, word } = row;
  const zero = () => session.keep(setEdit(channel, [rest[channel], rest[channel], rest[channel]]));
  return (
    <>
      <button
        type="button"
        className="flex items-baseline justify-between rounded text-left text-ink-2 hover:text-plum"
        title={channel === 'size' ? word : `Set ${word.toLowerCase()} back`}
        onClick={channel === 'size' ? undefined : zero}
      >
        {word}
        <span className="pr-1 font-mono text-[11px] text-ink-3">{row.unit}</span>
      </button>
      {numbers.map((value, axis) => (
        <span key={letters[axis]} className="flex min-w-0 items-center">
          <ScrubLabel
            word={letters[axis]!}
            title={`Drag to change ${word.toLowerCase()} ${letters[axis]}; press to set it back`}
            className={`w-3 shrink-0 text-center text-[11px] font-bold ${['text-x', 'text-y', 'text-z'][axis]}`}
            quantity={row.quantity}
            value={value}
            attempt={(v, by) => session.preview([scrubbed(channel, axis, v, by)])}
            keep={(v, by) => session.keep(scrubbed(channel, axis, v, by))}
            press={() => channel !== 'size' && session.keep(setEdit(channel, one(axis, rest[channel])))}
          />
          <NumberField
            label={`${word} ${letters[axis]}`}
            value={value}
            quantity={row.quantity}
            shown={row.shown}
            keep={(v) => session.keep(setEdit(channel, one(axis, v)))}
            change={(mode, amount) => session.keep(setEdit(channel, one(axis, amount), mode))}
            narrow
            {...(channel === 'size'
              ? {}
              : { channel: channel === 'rotation' ? 'rotation' : `${channel}.${'xyz'[axis]}` })}
            {...(stored && channel !== 'size'
              ? { dragged: (tried: Tried) => tried.lead?.placement[channel]?.[axis] ?? null }
              : {})}
          />
        </span>
      ))}
    </>
  );
}

function Shear({ lead }: { lead: NodeAnswer }) {
  const above = lead.shearedBy;
  return (
    <p className="m-0 mt-1 flex items-center justify-between gap-2 text-warning">
      <span>
        △ Sheared: {lead.node.placement.shear.map((s) => s.toFixed(3)).join(', ')}
        {above ? ` (${above}, which carries it, is scaled unevenly)` : ''}
      </span>
      <button type="button" className="btn" onClick={takeShearOut}>
        Take out
      </button>
    </p>
  );
}

const Order = memo(function Order({ order, away }: { order: string | null; away: number }) {
  return (
    <div className="mt-2 flex items-center gap-2 text-ink-2">
      <span>Turns in the order</span>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className="word font-mono text-[12px]" aria-label={`Rotation order: ${order ?? 'mixed'}`}>
          {order ?? 'mixed'}
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal container={floating()}>
          <DropdownMenu.Content className="menu max-w-72" align="start">
            <p className="m-0 px-2.5 py-1.5 text-ink-2">
              The orientation stays, only the three numbers change. The middle letter’s turn is the one that should
              never come near 90°: there the other two line up.
            </p>
            {orders.map((other) => (
              <DropdownMenu.Item
                key={other}
                className="menu-item font-mono"
                onSelect={() => session.keep({ do: 'setOrder', nodes: get().selection, order: other })}
              >
                {other}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {order && away < 20 && (
        <span title="How far the middle turn is from where the two others turn about one line">
          {Math.round(away)}° from lining up
        </span>
      )}
    </div>
  );
});

const More = memo(function More() {
  const items: [string, () => void][] = [
    ['Set all back', () => setAllBack()],
    ['Send to world zero', () => sendToZero()],
    ['Copy placement', () => void copyPlacement('')],
    ['Copy position', () => void copyPlacement('position')],
    ['Copy rotation', () => void copyPlacement('rotation')],
    ['Copy scale', () => void copyPlacement('scale')],
    ['Paste placement', () => void pastePlacement()],
  ];
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="btn ml-auto" aria-label="More about placement">
        ⋯
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={floating()}>
        <DropdownMenu.Content className="menu" align="end">
          {items.map(([word, act]) => (
            <DropdownMenu.Item key={word} className="menu-item" onSelect={() => setTimeout(act)}>
              {word}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
});

function setAllBack(): void {
  session.keep(setEdit('position', [0, 0, 0]), setEdit('rotation', [0, 0, 0]), setEdit('scale', [1, 1, 1]));
}
