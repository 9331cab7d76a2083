import type { PivotPlace } from '../../wire/apiTypes';
import { DropdownMenu } from 'radix-ui';
import { floating } from '../../controls/floating';
import { memo, useState } from 'react';
import type { NodeAnswer, Vec3 } from '../../core/answers';
import { startPicking } from '../../commands/placing';
import { useFrames } from '../../state/frames';
import { session } from '../../acts/session';
import { get, set, useStore } from '../../state/store';
import { NumberField } from '../../controls/NumberField';
import { angle, length } from '../../controls/numbers';
import { sameLead } from '../../controls/sameLead';
import { Section } from '../../controls/Section';
import { AnchorBox } from './AnchorBox';

const accents = ['var(--x)', 'var(--y)', 'var(--z)'];

type Mode = 'set' | 'add' | 'multiply';

/** The pivot: its place and its directions in the object's own frame, and where else it can be put. */
const unturned = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

export const PivotPanel = memo(PivotOf, (a, b) =>
  sameLead(a.lead, b.lead, (n) => [n.node.placement.pivot, n.node.placement.pivotTurn, n.anchor]),
);

/** Where an anchor is seen, as the view looks at it now. */
function SeenAs({ anchor, of }: { anchor: Vec3; of: string | null }) {
  useFrames((s) => s.drawn);
  return (
    <p className="m-0 -mt-1 mb-1 text-right text-[11.5px] text-ink-2" data-anchor-seen>
      seen as the {session.core.anchorSeen(anchor, of, session.picture?.viewWorld() ?? unturned)}
    </p>
  );
}

function PivotOf({ lead }: { lead: NodeAnswer }) {
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  const numbers = useStore((s) => s.pivotNumbers);
  const [hovered, setHovered] = useState<Vec3 | null>(null);
  const [of, setOf] = useState<'own' | 'world'>('own');
  const { placement } = lead.node;
  const present = lead.anchor;
  const shown = hovered ?? present;
  const keep = numbers ? 'numbers' : 'world';
  const put = (anchor: Vec3) => session.keep({ do: 'movePivot', nodes: get().selection, to: { anchor, of }, keep });
  // As the buttons do, the fields change the pivots of all that is picked.
  const one = (axis: number, v: number) => [0, 1, 2].map((i) => (i === axis ? v : null));
  const own = (axis: number, v: number, mode: Mode = 'set') =>
    session.keep({ do: 'movePivot', nodes: get().selection, to: { parts: one(axis, v) }, mode, keep });
  const turned = (turnParts: (number | null)[], mode: Mode = 'set') =>
    session.keep({ do: 'movePivot', nodes: get().selection, turnParts, mode, keep });

  return (
    <Section title="Pivot" remark={shown ? session.core.anchorInWords(shown) : 'at a point of its own'}>
      {shown && <SeenAs anchor={shown} of={of === 'own' ? lead.node.id : null} />}
      <div className="flex gap-3">
        <AnchorBox present={of === 'own' ? present : null} hovered={hovered} hover={setHovered} put={put} />
        <div className="flex flex-1 flex-col items-start gap-1.5">
          <button type="button" className="btn" onClick={() => put([0, 0, 0])}>
            Middle
          </button>
          <button type="button" className="btn" onClick={() => put([0, -1, 0])}>
            Base
          </button>
          <button
            type="button"
            className="btn"
            title="Bounds along its own axes, or along the world's"
            onClick={() => setOf(of === 'own' ? 'world' : 'own')}
          >
            {of === 'own' ? 'Own box' : 'World box'}
          </button>
        </div>
      </div>
      <div className="mt-2 flex flex-wrap gap-1">
        <button type="button" className="btn" onClick={() => startPicking('pivot')}>
          Press a point…
        </button>
        <Elsewhere keep={keep} />
        <button
          type="button"
          className={`btn ${numbers ? 'border-plum bg-wash text-plum' : ''}`}
          aria-pressed={numbers}
          title="What stays when the pivot goes elsewhere"
          onClick={() => set({ pivotNumbers: !numbers })}
        >
          {numbers ? 'Keep numbers' : 'Keep place'}
        </button>
      </div>
      <div className="mt-2 grid grid-cols-[64px_1fr_1fr_1fr] items-center gap-1">
        <span className="text-ink-2">Point</span>
        {placement.pivot.map((value, axis) => (
          <NumberField
            key={axis}
            label={`Pivot ${'XYZ'[axis]}`}
            value={value}
            quantity="length"
            shown={(v) => length(v, unit)}
            accent={accents[axis]!}
            keep={(v) => own(axis, v)}
            change={(mode, amount) => own(axis, amount, mode)}
          />
        ))}
        <button
          type="button"
          className="rounded text-left text-ink-2 hover:text-plum"
          title="Set the pivot's directions back to the object's own"
          onClick={() => turned([0, 0, 0])}
        >
          Directions
        </button>
        {placement.pivotTurn.map((value, axis) => (
          <NumberField
            key={axis}
            label={`Pivot directions ${'XYZ'[axis]}`}
            value={value}
            quantity="angle"
            shown={angle}
            accent={accents[axis]!}
            keep={(v) => turned(one(axis, v))}
            change={(mode, amount) => turned(one(axis, amount), mode)}
          />
        ))}
      </div>
    </Section>
  );
}

/** Other places for the pivot: world zero, a mark, another object's pivot. */
function Elsewhere({ keep }: { keep: 'world' | 'numbers' }) {
  const marks = useStore((s) => s.marks);
  const many = useStore((s) => s.selection.length > 1);
  const go = (to: PivotPlace, nodes = get().selection) => session.keep({ do: 'movePivot', nodes, to, keep });
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="btn">To …</DropdownMenu.Trigger>
      <DropdownMenu.Portal container={floating()}>
        <DropdownMenu.Content className="menu" align="start">
          <DropdownMenu.Item className="menu-item" onSelect={() => go({ point: [0, 0, 0] })}>
            World zero
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className="menu-item"
            disabled={!many}
            onSelect={() => {
              const { selection } = get();
              go({ node: selection.at(-1) }, selection.slice(0, -1));
            }}
          >
            The lead’s pivot
          </DropdownMenu.Item>
          {marks.map(({ id, name }) => (
            <DropdownMenu.Item key={id} className="menu-item" onSelect={() => go({ node: id })}>
              The mark {name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
