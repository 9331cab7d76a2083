import { X } from 'lucide-react';
import type { LightType, NodeAnswer } from '../../core/answers';
import type { EditSetLight } from '../../wire/apiTypes';
import { session } from '../../acts/session';
import { CheatCorner } from '../../controls/CheatCorner';
import { ColourPicker } from '../../controls/ColourPicker';
import { Figure, type Mode } from '../../controls/Figure';
import { angle, factor, length } from '../../controls/numbers';
import { Section } from '../../controls/Section';
import { get, useStore } from '../../state/store';
import { startPicking } from '../../commands/placing';
import { OneOf } from '../../controls/OneOf';
import { Presets } from '../../controls/Presets';
import { distinct } from '../../core/colour';

const kinds: { value: LightType; word: string; means: string }[] = [
  { value: 'point', word: 'Point', means: 'Shines to all sides' },
  { value: 'spot', word: 'Spot', means: 'Shines in a cone, along its −Z' },
  { value: 'panel', word: 'Panel', means: 'An area that shines along its −Z; other programs read it as a wide spot' },
  { value: 'directional', word: 'Directional', means: 'Shines along its −Z from far away, everywhere alike' },
];

/** Kelvin, and what glows so. */
const temperatures = [
  [1900, 'a candle'],
  [2700, 'a warm bulb'],
  [3200, 'a studio lamp'],
  [4300, 'moonlight'],
  [5600, 'daylight'],
  [7500, 'an overcast sky'],
  [10000, 'a blue sky'],
] as const;

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
  const number =
    (field: 'intensity' | 'range' | 'innerCone' | 'outerCone' | 'temperature' | 'size' | 'panelHeight') =>
    (value: number, mode: Mode) =>
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
          <ColourPicker
            label="Colour of the lamp"
            value={light.shown}
            chips={distinct(session.core.lamps().map((lamp) => lamp.color))}
            attempt={(color) => session.preview([change({ color })])}
            keep={(color) => session.keep(change({ color }))}
            leave={() => session.putBack()}
          />
          <CheatCorner channel="light.color" />
        </span>
        <Figure
          word="Temperature"
          unit="K"
          value={light.temperature}
          quantity="count"
          shown={(v) => String(Math.round(v))}
          none="by colour"
          edit={number('temperature')}
          channel="light.temperature"
        >
          <Presets
            label="A temperature of the trade"
            choices={temperatures.map(([kelvin, word]) => ({ value: String(kelvin), word }))}
            choose={(kelvin) => session.keep(change({ temperature: Number(kelvin) }))}
          />
        </Figure>
        <Figure
          word="Intensity"
          unit={light.type === null ? '' : light.type === 'directional' ? 'lx' : 'cd'}
          value={light.intensity}
          quantity="factor"
          shown={factor}
          edit={number('intensity')}
          channel="light.intensity"
        >
          {light.lumens !== null && (
            <span className="shrink-0 font-mono text-[11px] text-ink-2" title="All the light that it gives">
              {Number(light.lumens.toPrecision(3))} lm
            </span>
          )}
        </Figure>
        <Figure
          word={light.type === 'panel' ? 'Width' : 'Size'}
          unit={light.type === 'directional' ? '°' : unit}
          value={light.size}
          quantity={light.type === 'directional' ? 'angle' : 'length'}
          shown={(v) => (light.type === 'directional' ? angle(v) : length(v, unit))}
          none="none: sharp"
          edit={number('size')}
          channel="light.size"
        />
        {light.type === 'panel' && (
          <Figure
            word="Height"
            unit={unit}
            value={light.panelHeight}
            quantity="length"
            shown={(v) => length(v, unit)}
            none="as wide"
            edit={number('panelHeight')}
            channel="light.panelHeight"
          />
        )}
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
      <label className="relative mt-1.5 flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={light.shadow === true}
          ref={(box) => {
            if (box) box.indeterminate = light.shadow === null;
          }}
          onChange={(e) => session.keep(change({ shadow: e.target.checked }))}
        />
        casts shadows
        <CheatCorner channel="light.shadow" />
      </label>
      <div className="mt-2 flex flex-wrap gap-1">
        <button
          type="button"
          className="btn"
          title="Press a point on the stage: it shines there"
          onClick={() => startPicking('turnTo')}
        >
          Turn to…
        </button>
        <button
          type="button"
          className="btn"
          title="Press a point on a surface: its light is mirrored there, as the view sees it"
          onClick={() => startPicking('highlight')}
        >
          Put its highlight…
        </button>
      </div>
    </Section>
  );
}
