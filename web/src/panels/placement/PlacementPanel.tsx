import { DropdownMenu } from 'radix-ui';
import { memo } from 'react';
import type { EulerOrder, NodeAnswer, Vec3 } from '../../core/bridge';
import { session } from '../../state/session';
import { orders, useStore } from '../../state/store';
import { NumberField } from '../NumberField';
import { angle, factor, length } from '../numbers';
import { Section } from '../Section';

const letters = ['X', 'Y', 'Z'];
const accents = ['var(--x)', 'var(--y)', 'var(--z)'];

type Channel = 'position' | 'rotation' | 'scale';

const zero: Record<Channel, Vec3> = { position: [0, 0, 0], rotation: [0, 0, 0], scale: [1, 1, 1] };

/** The stored numbers of the lead, as they count in its parent. */
export function PlacementPanel({ lead }: { lead: NodeAnswer }) {
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  const parent = useStore((s) => (lead.node.parent ? s.byId.get(lead.node.parent)?.name : null));
  const { placement, id } = lead.node;
  const said = useStore((s) => JSON.stringify(s.settings.numbers ?? null));
  const rows: {
    channel: Channel;
    word: string;
    quantity: 'length' | 'angle' | 'factor';
    shown: (v: number) => string;
    unit: string;
  }[] = [
    { channel: 'position', word: 'Position', quantity: 'length', shown: (v) => length(v, unit), unit },
    { channel: 'rotation', word: 'Rotation', quantity: 'angle', shown: angle, unit: '°' },
    { channel: 'scale', word: 'Scale', quantity: 'factor', shown: factor, unit: '×' },
  ];

  const keep = (channel: Channel, axis: number, value: number) => {
    const numbers = [...placement[channel]] as Vec3;
    numbers[axis] = value;
    return session.keep({ do: 'place', node: id, placement: { [channel]: numbers } });
  };

  return (
    <Section title="Placement" remark={parent ? `as stored, in ${parent}` : 'as stored, in the world'}>
      <div className="grid grid-cols-[64px_1fr_1fr_1fr] items-center gap-x-1 gap-y-1.5">
        {rows.map((row) => (
          <RowOf
            key={row.channel}
            {...row}
            id={id}
            said={said}
            numbers={placement[row.channel]}
            keep={keep}
            zero={() => session.keep({ do: 'place', node: id, placement: { [row.channel]: zero[row.channel] } })}
          />
        ))}
      </div>
      <Order id={id} order={placement.order} />
      {lead.liningUp < 0.5 && (
        <p className="m-0 mt-1 text-warning">△ Two rotation axes line up here; one turn now does the work of two.</p>
      )}
      {placement.shear.some((s) => Math.abs(s) > 1e-9) && (
        <p className="m-0 mt-1 flex items-center justify-between gap-2 text-warning">
          <span>△ Sheared: {placement.shear.map((s) => s.toFixed(3)).join(', ')}</span>
          <button
            type="button"
            className="btn"
            onClick={() => session.keep({ do: 'place', node: id, placement: { shear: [0, 0, 0] } })}
          >
            Take out
          </button>
        </p>
      )}
    </Section>
  );
}

const RowOf = memo(
  ChannelRow,
  (a, b) => a.id === b.id && a.unit === b.unit && a.said === b.said && a.numbers.join() === b.numbers.join(),
);

function ChannelRow(props: {
  id: string;
  /** How numbers are shown, as far as settings decide. */
  said: string;
  channel: Channel;
  word: string;
  quantity: 'length' | 'angle' | 'factor';
  shown: (v: number) => string;
  unit: string;
  numbers: Vec3;
  keep: (channel: Channel, axis: number, value: number) => boolean;
  zero: () => void;
}) {
  return (
    <>
      <button
        type="button"
        className="flex items-baseline justify-between rounded text-left text-ink-2 hover:text-plum"
        title={`Set ${props.word.toLowerCase()} back`}
        onClick={props.zero}
      >
        {props.word}
        <span className="pr-1 font-mono text-[11px] text-ink-3">{props.unit}</span>
      </button>
      {props.numbers.map((value, axis) => (
        <NumberField
          key={letters[axis]}
          label={`${props.word} ${letters[axis]}`}
          value={value}
          quantity={props.quantity}
          shown={props.shown}
          keep={(v) => props.keep(props.channel, axis, v)}
          accent={accents[axis]!}
        />
      ))}
    </>
  );
}

const Order = memo(function Order({ id, order }: { id: string; order: EulerOrder }) {
  return (
    <div className="mt-2 flex items-center gap-2 text-ink-2">
      <span>Turns in the order</span>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className="word font-mono text-[12px]" aria-label="Rotation order">
          {order}
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="menu" align="start">
            {orders.map((other) => (
              <DropdownMenu.Item
                key={other}
                className="menu-item font-mono"
                onSelect={() => session.keep({ do: 'place', node: id, placement: { order: other } })}
              >
                {other}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  );
});
