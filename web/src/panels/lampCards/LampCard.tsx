import { Lightbulb, LightbulbOff } from 'lucide-react';
import type { LampReading } from '../../core/answers';
import type { EditSetLight } from '../../wire/apiTypes';
import { solo, switchLamp } from '../../acts/lamps';
import { session } from '../../acts/session';
import { ColourPicker } from '../../controls/ColourPicker';
import { middleCut } from '../../controls/middleCut';
import { get, useStore } from '../../state/store';
import { OwnCorner } from './OwnCorner';
import { Slide } from './Slide';
import type { Colour } from '../../core/colour';

/** One lamp: its colour, a switch, alone, its strength. Pressed, it is picked. */
export function LampCard({ lamp, chips }: { lamp: LampReading; chips: Colour[] }) {
  const picked = useStore((s) => s.selection.includes(lamp.id));
  const alone = useStore((s) => s.soloLamps.includes(lamp.id));
  // From a hundred-thousandth to a hundred thousand: a line of stops.
  const stops = lamp.intensity > 0 ? Math.log2(lamp.intensity) : -7;
  const edit = (v: number): EditSetLight => ({
    do: 'setLight',
    nodes: [lamp.id],
    intensity: v <= -7 ? 0 : figure(2 ** v),
  });
  const coloured = (color: Colour): EditSetLight => ({ do: 'setLight', nodes: [lamp.id], color });
  const Bulb = lamp.on ? Lightbulb : LightbulbOff;
  return (
    <div
      className={`relative flex h-full flex-col justify-between rounded-lg border px-1.5 py-0.5 ${picked ? 'border-2 border-plum' : 'border-line'}`}
      data-lamp={lamp.id}
    >
      <span className="flex min-w-0 items-center">
        <ColourPicker
          label={`Colour of ${lamp.name}`}
          value={lamp.color}
          chips={chips}
          attempt={(color) => session.preview([coloured(color)])}
          keep={(color) => session.keep(coloured(color))}
          leave={() => session.putBack()}
          small
        />
        <button
          type="button"
          className="flex min-w-0 flex-1 items-center gap-1.5 rounded text-left hover:text-plum"
          title={`${lamp.name}: ${lamp.type}${lamp.lumens === null ? '' : `, ${figure(lamp.lumens)} lm`}${lamp.temperature === null ? '' : `, ${Math.round(lamp.temperature)} K`}`}
          onClick={(e) => session.select(e.ctrlKey ? [...new Set([...get().selection, lamp.id])] : [lamp.id])}
        >
          <span className="min-w-0 truncate">{middleCut(lamp.name, 16)}</span>
          {lamp.own.length > 0 && <OwnCorner />}
        </button>
      </span>
      <span className="truncate text-[10.5px] leading-tight text-ink-2">
        {figure(lamp.intensity)} {lamp.type === 'directional' ? 'lx' : 'cd'}
        {lamp.temperature === null ? '' : ` · ${Math.round(lamp.temperature)} K`}
      </span>
      <Slide
        label={`Strength of ${lamp.name}`}
        value={stops}
        from={-7}
        to={17}
        step={0.1}
        shown=""
        own={lamp.own.includes('light.intensity')}
        attempt={(v) => session.preview([edit(v)])}
        keep={(v) => void session.keep(edit(v))}
      />
      <div className="flex gap-1">
        <button
          type="button"
          aria-pressed={lamp.on}
          className={`btn h-6 min-h-0 py-0 px-1.5 text-[11px] ${lamp.on ? '' : 'text-ink-2'}`}
          title={lamp.on ? 'Switch it off' : 'Switch it on'}
          aria-label={`${lamp.name} ${lamp.on ? 'is on' : 'is off'}`}
          onClick={() => switchLamp(lamp)}
        >
          <Bulb size={12} aria-hidden /> {lamp.on ? 'on' : 'off'}
        </button>
        <button
          type="button"
          aria-pressed={alone}
          className={`btn h-6 min-h-0 py-0 px-1.5 text-[11px] ${alone ? 'border-plum bg-wash text-plum' : ''}`}
          title="Light the working view by this lamp alone; the picture stays"
          aria-label={`${lamp.name} alone`}
          onClick={() => solo(lamp.id)}
        >
          alone
        </button>
      </div>
    </div>
  );
}

/** Three figures are enough. */
const figure = (v: number) => Number(v.toPrecision(3));
