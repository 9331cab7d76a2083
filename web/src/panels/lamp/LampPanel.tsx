import { X } from 'lucide-react';
import type { LightType, NodeAnswer } from '../../core/answers';
import type { EditSetLight } from '../../wire/apiTypes';
import { session } from '../../acts/session';
import { CheatCorner } from '../../controls/CheatCorner';
import { ColorField } from '../../controls/ColorField';
import { Figure, type Mode } from '../../controls/Figure';
import { angle, factor, length } from '../../controls/numbers';
import { Section } from '../../controls/Section';
import { get, useStore } from '../../state/store';
import { OneOf } from '../../controls/OneOf';

const kinds: { value: LightType; word: string; means: string }[] = [
  { value: 'point', word: 'Point', means: 'Shines to all sides' },
  { value: 'spot', word: 'Spot', means: 'Shines in a cone, along its −Z' },
  { value: 'directional', word: 'Directional', means: 'Shines along its −Z from far away, everywhere alike' },
];

/** What a lamp is; acts on all lamps that are picked. */
export function LampPanel({ lead }: { lead: NodeAnswer }) {
  const selection = useStore((s) => s.selection);
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  if (!lead.node.light) return null;
  const light = session.core.commonLight(selection);
  const change = (fields: Omit<EditSetLight, 'do' | 'nodes'>): EditSetLight => ({
    do: 'setLight',
    nodes: get().selection,
    ...fields,
  });
  const number = (field: 'intensity' | 'range' | 'innerCone' | 'outerCone') => (value: number, mode: Mode) =>
    change({ [field]: value, mode });
  return (
    <Section title="Lamp" remark={light.count > 1 ? `of ${light.count} lamps` : undefined}>
      <OneOf
        label="Kind of lamp"
        value={light.type}
        choices={kinds}
        choose={(type) => session.keep(change({ type }))}
      />
      <div className="mt-2 grid grid-cols-[92px_1fr] items-center gap-x-2 gap-y-1.5">
        <span className="text-ink-2">Colour</span>
        <span className="relative flex min-w-0">
          <ColorField
            label="Colour of the lamp"
            value={light.color}
            attempt={(color) => session.preview([change({ color })])}
            keep={(color) => session.keep(change({ color }))}
          />
          <CheatCorner channel="light.color" />
        </span>
        <Figure
          word="Intensity"
          unit={light.type === null ? '' : light.type === 'directional' ? 'lx' : 'cd'}
          value={light.intensity}
          quantity="factor"
          shown={factor}
          edit={number('intensity')}
          channel="light.intensity"
        />
        {light.type !== 'directional' && (
          <Figure
            word="Range"
            unit={unit}
            value={light.range}
            quantity="length"
            shown={(v) => length(v, unit)}
            none="no end"
            edit={number('range')}
            channel="light.range"
          >
            {light.range !== 0 && (
              <button
                type="button"
                className="grid h-6 w-6 shrink-0 place-items-center rounded text-ink-2 hover:text-plum"
                aria-label="Without end"
                title="It shines without end"
                onClick={() => session.keep(change({ range: 0 }))}
              >
                <X size={13} aria-hidden />
              </button>
            )}
          </Figure>
        )}
        {light.type === 'spot' && (
          <>
            <Figure
              word="Inner cone"
              unit="°"
              value={light.innerCone}
              quantity="angle"
              shown={angle}
              edit={number('innerCone')}
              channel="light.innerCone"
            />
            <Figure
              word="Outer cone"
              unit="°"
              value={light.outerCone}
              quantity="angle"
              shown={angle}
              edit={number('outerCone')}
              channel="light.outerCone"
            />
          </>
        )}
      </div>
    </Section>
  );
}
