import { useMemo } from 'react';
import type { SeenInReading } from '../../wire/bridgeTypes';
import { session } from '../../acts/session';
import { Section } from '../../controls/Section';
import { get, useStore } from '../../state/store';

/** In which shots the picked are seen: one small switch a shot, of three states; of several that differ "mixed". */
export function SeenIn() {
  const shots = useStore((s) => s.shots);
  const selection = useStore((s) => s.selection);
  const sight = useStore((s) => s.sight);
  const byId = useStore((s) => s.byId);
  const current = useStore((s) => s.shot);
  const all = useMemo(
    () => (shots.length === 0 ? [] : session.core.seenIn(selection.slice(-500))),
    [shots, selection, sight, byId],
  );
  if (all.length === 0) return null;
  const count = all.filter((s) => s.seen).length;
  return (
    <Section title="Seen in" remark={`${count} of ${all.length} shots`}>
      <ul className="m-0 max-h-44 list-none overflow-auto p-0" aria-label="Seen in">
        {all.map((reading) => (
          <li key={reading.shot} className="flex items-center gap-2 py-px" title={reading.why ?? undefined}>
            <span className={`min-w-0 flex-1 truncate ${reading.shot === current ? 'font-semibold' : ''}`}>
              {reading.title}
              {!reading.seen && reading.state !== 'off' && <span className="text-ink-2"> · not seen</span>}
            </span>
            <span className="flex gap-px" role="radiogroup" aria-label={`In ${reading.title}`}>
              <State reading={reading} to="scene" word="as in the scene" />
              <State reading={reading} to="on" word="on" />
              <State reading={reading} to="off" word="off" />
            </span>
          </li>
        ))}
      </ul>
    </Section>
  );
}

function State({ reading, to, word }: { reading: SeenInReading; to: 'scene' | 'on' | 'off'; word: string }) {
  const chosen = reading.state === to;
  return (
    <button
      type="button"
      role="radio"
      aria-checked={chosen}
      aria-label={word}
      title={`${reading.title}: ${word}${reading.state === 'mixed' ? ' (now mixed)' : ''}`}
      className={`grid h-6 place-items-center rounded px-1.5 text-[11.5px] ${chosen ? (to === 'scene' ? 'bg-line/60 text-ink-1' : 'bg-wash font-semibold text-plum') : 'text-ink-2 hover:text-plum'}`}
      onClick={() =>
        session.keep({
          do: 'seeIn',
          shots: [reading.shot],
          of: get().selection,
          ...(to === 'scene' ? {} : { on: to === 'on' }),
        })
      }
    >
      {to === 'scene' ? 'scene' : to}
    </button>
  );
}
