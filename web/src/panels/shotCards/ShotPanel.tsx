import { useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { inEveryShot, makeEverywhere, setLength, takeBack, viewToShot } from '../../acts/shots';
import { session } from '../../acts/session';
import { ColourPicker } from '../../controls/ColourPicker';
import { Section } from '../../controls/Section';
import { currentShot } from '../../state/shotsSlice';
import { useStore } from '../../state/store';

/** The current shot: what it is called, its length, its camera, its note; and what the picked have of their own in it. */
export function ShotPanel() {
  const shot = useStore(currentShot);
  const cameras = useStore(useShallow((s) => s.rows.filter((r) => r.kind === 'camera').slice(0, 200)));
  const shots = useStore((s) => s.shots);
  if (!shot) return null;
  const change = (fields: { number?: string; name?: string; camera?: string; note?: string; colour?: string }) =>
    session.keep({ do: 'setShot', id: shot.id, ...fields });
  return (
    <Section title="The shot" remark={`from ${shot.first} · ${shot.code}`}>
      <div className="grid grid-cols-[52px_1fr] items-center gap-x-2 gap-y-1.5">
        <span className="text-ink-2">Number</span>
        <Text label="Number of the shot" value={shot.number} keep={(number) => change({ number })} />
        <span className="text-ink-2">Name</span>
        <Text label="Name of the shot" value={shot.name} keep={(name) => change({ name })} />
        <span className="text-ink-2">Length</span>
        <Text
          label="Length of the shot"
          title="Frames (96), seconds (4s), or seconds and frames (2:12)"
          value={shot.length}
          keep={(text) => setLength(shot.id, text)}
        />
        <span className="text-ink-2">Camera</span>
        <span className="flex min-w-0 gap-1">
          <select
            className="field min-w-0 flex-1"
            aria-label="Camera of the shot"
            value={shot.cameraNote === null ? (shot.camera ?? '') : ''}
            onChange={(e) => change({ camera: e.target.value })}
          >
            {shot.cameraNote !== null && <option value="">choose a camera</option>}
            {cameras.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
          <button
            type="button"
            className="btn px-2"
            title="Its camera goes where this view is; where it has none, it gets one"
            onClick={() => viewToShot(shot.id)}
          >
            This view
          </button>
        </span>
        <span className="text-ink-2">Note</span>
        <Text label="Note on the shot" value={shot.note ?? ''} keep={(note) => change({ note })} left />
        <span className="text-ink-2">Colour</span>
        <span className="flex items-center gap-1">
          <ColourPicker
            label="Colour of the shot"
            value={shot.colour}
            none="none"
            chips={[...new Set(shots.flatMap((one) => one.colour ?? []))]}
            attempt={() => undefined}
            keep={(colour) => change({ colour })}
            leave={() => undefined}
          />
          {shot.colour !== null && (
            <button type="button" className="btn px-1.5" onClick={() => change({ colour: '' })}>
              None
            </button>
          )}
        </span>
      </div>
      {shot.cameraNote && <p className="m-0 mt-1.5 text-warning">△ {shot.cameraNote}</p>}
      <Timing />
    </Section>
  );
}

/** What the scene counts by. */
function Timing() {
  const { fps, firstFrame, total } = useStore((s) => s.timing);
  const number = (label: string, value: number, keep: (n: number) => void) => (
    <Text
      label={label}
      value={String(value)}
      keep={(text) => {
        const n = Number(text.replace(',', '.'));
        if (text.trim() === '' || !Number.isFinite(n)) {
          session.say({ kind: 'refusal', text: `“${text}” is no number.` });
          return false;
        }
        keep(n);
        return true;
      }}
    />
  );
  return (
    <p className="m-0 mt-2 flex items-center gap-1.5 text-ink-2">
      <span className="w-12">{number('Frames a second', fps, (n) => session.keep({ do: 'setTiming', fps: n }))}</span>
      frames a second, from
      <span className="w-12">
        {number('First frame', firstFrame, (n) => session.keep({ do: 'setTiming', firstFrame: Math.round(n) }))}
      </span>
      <span className="ml-auto font-mono text-[11px]" title="All shots together">
        {total}
      </span>
    </p>
  );
}

/** What the picked have of their own in the current shot, with the scene's values; a press takes one back. */
export function OwnInShot() {
  const shot = useStore(currentShot);
  const { cheats, selection } = useStore(useShallow((s) => ({ cheats: s.cheats, selection: s.selection })));
  if (!shot) return null;
  const some = cheats.filter((c) => c.channel !== 'seen');
  const switched = cheats.find((c) => c.channel === 'seen');
  const nodes = [...new Set(some.flatMap((c) => c.of))];
  return (
    <Section title="Its own in this shot" remark={shot.title}>
      {some.length === 0 && (
        <p className="m-0 text-ink-2">
          {switched
            ? `Nothing but its switch: ${switched.here} here, ${switched.there} in the scene.`
            : 'Nothing: it is as in the scene.'}
        </p>
      )}
      <ul className="m-0 list-none p-0" aria-label={`Of their own in ${shot.title}`}>
        {some.map((c) => (
          <li key={c.channel} className="flex items-center gap-2 py-0.5">
            <span className="min-w-0 flex-1">
              {c.words}
              {selection.length > 1 && c.of.length < selection.length ? ` of ${c.of.length}` : ''}
              <span className="block font-mono text-[11px] text-ink-2">
                {c.here} · scene {c.there}
              </span>
            </span>
            <button
              type="button"
              className="btn"
              aria-label={`Take back ${c.words}`}
              onClick={() => takeBack(c.of, [c.channel])}
            >
              Take back
            </button>
          </li>
        ))}
      </ul>
      {some.length > 0 && (
        <div className="mt-1.5 flex flex-wrap gap-1">
          <button type="button" className="btn" onClick={() => takeBack(nodes)}>
            Take all back
          </button>
          <button
            type="button"
            className="btn"
            title="The scene takes these values; the other shots follow, unless they have their own"
            onClick={() => inEveryShot(() => makeEverywhere(nodes, 'follow'))}
          >
            So everywhere
          </button>
          <button
            type="button"
            className="btn"
            title="The scene takes these values; the other shots keep what they showed"
            onClick={() => inEveryShot(() => makeEverywhere(nodes, 'keep'))}
          >
            … others keep
          </button>
        </div>
      )}
    </Section>
  );
}

/** A text that Enter keeps and Esc leaves. */
function Text(props: {
  label: string;
  value: string;
  keep: (text: string) => boolean;
  title?: string;
  left?: boolean;
}) {
  const [text, setText] = useState<string | null>(null);
  const done = () => {
    if (text !== null && text.trim() !== props.value && !props.keep(text.trim())) return false;
    setText(null);
    return true;
  };
  return (
    <input
      className={`field ${props.left ? 'text-left font-sans' : ''}`}
      aria-label={props.label}
      title={props.title}
      value={text ?? props.value}
      maxLength={500}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => {
        if (!done()) setText(null);
      }}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') done();
        else if (e.key === 'Escape') {
          setText(null);
          (e.target as HTMLInputElement).blur();
        }
      }}
    />
  );
}
