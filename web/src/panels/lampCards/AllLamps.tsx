import type { LampReading } from '../../core/answers';
import { setSurroundings, trySurroundings } from '../../acts/lamps';
import { session } from '../../acts/session';
import { Slide } from './Slide';

/** What is for all lamps: how bright they are together, and the exposure of the picture. */
export function AllLamps({ lamps, exposure, own }: { lamps: LampReading[]; exposure: number; own: boolean }) {
  const ids = lamps.map((lamp) => lamp.id);
  const times = (stops: number) => ({ do: 'setLight', nodes: ids, intensity: 2 ** stops, mode: 'multiply' }) as const;
  return (
    <div className="grid grid-cols-[52px_1fr] items-center gap-x-1 text-[11px] text-ink-2">
      <span>Exposure</span>
      <Slide
        label="Exposure, in stops"
        value={exposure}
        from={-8}
        to={8}
        step={0.1}
        shown={`${exposure > 0 ? '+' : ''}${exposure.toFixed(1)}`}
        attempt={(v) => trySurroundings({ exposure: v })}
        keep={(v) => setSurroundings({ exposure: v })}
        own={own}
      />
      <span>All ×</span>
      <Slide
        label="All lamps together, in stops"
        value={0}
        from={-3}
        to={3}
        step={0.1}
        shown=""
        disabled={ids.length === 0}
        attempt={(v) => session.preview([times(v)])}
        keep={(v) => void (v !== 0 && session.keep(times(v)))}
      />
    </div>
  );
}
