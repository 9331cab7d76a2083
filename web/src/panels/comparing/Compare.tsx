import { ArrowLeft, ArrowLeftRight, ArrowRight } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { isRefusal, type Edit } from '../../core/answers';
import type { DifferenceLine, ThingDifference } from '../../wire/bridgeTypes';
import { session } from '../../acts/session';
import { middleCut } from '../../controls/middleCut';
import { TwoPictures } from '../../controls/TwoPictures';
import { OverStage } from '../../controls/OverStage';
import { get, set, useStore } from '../../state/store';

type Sides = { a: string; b: string | null };

/** Two shots, or a shot and the scene, beside each other: what is not the same, with a press to take either. */
export function Compare() {
  return useStore((s) => s.open === 'compare') ? <Comparing /> : null;
}

function Comparing() {
  const { a, b, ghosts } = useStore((s) => s.comparing);
  const shots = useStore((s) => s.shots);
  // What differs is asked anew whenever the scene may have changed.
  const sight = useStore((s) => s.sight);
  const byId = useStore((s) => s.byId);
  const shown = useStore((s) => s.shot);
  const versions = useStore((s) => s.shotVersions);
  const read = useMemo(() => session.core.diff(a, b), [a, b, shots, sight, byId, versions]);
  useEffect(() => {
    if (!ghosts) return;
    // Of the two that which is not shown.
    const [from, to] = shown === b ? [b, a] : [a, b];
    const shadows = session.core.diffShadows(from, to);
    set({ shadows: isRefusal(shadows) ? [] : shadows });
    return () => set({ shadows: [] });
  }, [ghosts, a, b, shown, read]);
  const change = (part: Partial<Sides & { ghosts: boolean }>) => set({ comparing: { ...get().comparing, ...part } });
  const side = (which: 'a' | 'b', value: string | null, scene: boolean) => (
    <select
      className="field min-w-0 flex-1 text-left font-sans"
      aria-label={which === 'a' ? 'The first shot' : 'The second shot, or the scene'}
      value={value !== null && shots.every((s) => s.id !== value) ? 'gone' : (value ?? '')}
      onChange={(e) => change({ [which]: e.target.value === '' ? null : e.target.value })}
    >
      {value !== null && shots.every((s) => s.id !== value) && <option value="gone">removed meanwhile</option>}
      {scene && <option value="">the scene</option>}
      {shots.map((s) => (
        <option key={s.id} value={s.id}>
          {s.title}
        </option>
      ))}
    </select>
  );
  const differs = !isRefusal(read) && read.things.length > 0;
  return (
    <OverStage title="Compare" narrow>
      <div className="flex items-center gap-1.5 px-3 pt-2">
        {side('a', a, false)}
        <button
          type="button"
          className="btn px-1.5"
          aria-label="Change sides"
          title={b === null ? 'The scene is always the second' : 'Change sides'}
          disabled={b === null}
          onClick={() => b !== null && change({ a: b, b: a })}
        >
          <ArrowLeftRight size={14} aria-hidden />
        </button>
        {side('b', b, true)}
      </div>
      <p className={`m-0 px-3 py-2 ${isRefusal(read) ? 'text-refusal' : 'text-ink-2'}`} role="status" data-compared>
        {isRefusal(read) ? read.detail : read.text}
      </p>
      <div className="min-h-0 flex-1 overflow-auto px-3" tabIndex={0} role="group" aria-label="What is not the same">
        {!isRefusal(read) &&
          read.things
            .slice(0, 300)
            .map((thing) => <Thing key={thing.id} thing={thing} a={a} b={b} names={[read.a, read.b]} />)}
        {!isRefusal(read) && read.count > read.things.length && (
          <p className="text-ink-2">and {read.count - read.things.length} more</p>
        )}
      </div>
      {b !== null && <Pictures a={a} b={b} />}
      {differs && (
        <footer className="flex flex-wrap gap-1.5 border-t border-line px-3 py-2">
          <label className="flex w-full items-center gap-1.5">
            <input type="checkbox" checked={ghosts} onChange={(e) => change({ ghosts: e.target.checked })} />
            the other as ghosts
          </label>
          <button type="button" className="btn" onClick={() => session.keep(given({ a, b }, 'a'))}>
            {middleCut(read.a, 16)} as {middleCut(read.b, 16)}
          </button>
          <button type="button" className="btn" onClick={() => session.keep(given({ a, b }, 'b'))}>
            {middleCut(read.b, 16)} as {middleCut(read.a, 16)}
          </button>
        </footer>
      )}
    </OverStage>
  );
}

/** The pictures of both, one wiped over the other; drawn when that is asked for. */
function Pictures({ a, b }: { a: string; b: string }) {
  const [urls, setUrls] = useState<{ of: string; a: string; b: string } | null>(null);
  const shots = useStore((s) => s.shots);
  const title = (id: string) => shots.find((s) => s.id === id)?.title ?? 'a shot';
  const key = `${a} ${b}`;
  useEffect(
    () => () => {
      if (urls) for (const url of [urls.a, urls.b]) URL.revokeObjectURL(url);
    },
    [urls],
  );
  const draw = async () => {
    const made: string[] = [];
    for (const id of [a, b]) {
      const aspect = shots.find((s) => s.id === id)?.aspect ?? 16 / 9;
      const blob = await session.picture?.throughShot(id, Math.max(2, Math.round(360 * aspect)), 360);
      if (!blob) {
        session.say({ kind: 'info', text: `${title(id)} has no camera to be drawn through.` });
        made.forEach((url) => URL.revokeObjectURL(url));
        return;
      }
      made.push(URL.createObjectURL(blob));
    }
    setUrls({ of: key, a: made[0]!, b: made[1]! });
  };
  if (urls?.of !== key)
    return (
      <button
        type="button"
        className="btn mx-3 mb-2 self-start"
        title="Draws both, and compares them"
        onClick={() => void draw()}
      >
        Their pictures
      </button>
    );
  return (
    <div className="flex h-[300px] shrink-0 flex-col border-t border-line">
      <TwoPictures a={urls.a} b={urls.b} names={[title(a), title(b)]} />
    </div>
  );
}

/** The edit that gives one side what the other has: of a thing, of a channel of it, or of all. */
function given({ a, b }: Sides, to: 'a' | 'b', of?: string, line?: DifferenceLine): Edit {
  const some = of === undefined ? {} : { of: of === '' ? [] : [of] };
  const part = line === undefined ? {} : of === '' ? { [line.channel]: true } : { channels: [line.channel] };
  if (to === 'a') return { do: 'takeFrom', shot: a, ...(b === null ? {} : { from: b }), ...some, ...part };
  if (b !== null) return { do: 'takeFrom', shot: b, from: a, ...some, ...part };
  return {
    do: 'everywhere',
    shot: a,
    ...(of === undefined ? {} : { nodes: [of] }),
    ...(line === undefined ? {} : { channels: [line.channel] }),
  };
}

function Thing(props: { thing: ThingDifference; a: string; b: string | null; names: [string, string] }) {
  const { thing, a, b, names } = props;
  return (
    <div className="mb-2 border-b border-line pb-1.5">
      {thing.id === '' ? (
        <b className="font-semibold">{thing.name}</b>
      ) : (
        <button
          type="button"
          className="rounded font-semibold hover:text-plum"
          title="Pick it"
          onClick={() => {
            const row = get().byId.get(thing.id);
            if (row && row.kind !== 'collection') session.select([thing.id]);
          }}
        >
          {middleCut(thing.name, 40)}
        </button>
      )}
      {thing.lines.map((line) => (
        <div
          key={line.channel}
          className="grid grid-cols-[104px_1fr_24px_24px_1fr] items-center gap-1"
          data-differs={line.channel}
        >
          <span className="truncate text-ink-2" title={line.words}>
            {line.words}
          </span>
          <Value text={line.a} right />
          <Take
            word={`${names[0]} takes ${line.words} of ${names[1]}`}
            take={() => session.keep(given({ a, b }, 'a', thing.id, line))}
          >
            <ArrowLeft size={14} aria-hidden />
          </Take>
          <Take
            word={`${names[1]} takes ${line.words} of ${names[0]}`}
            take={() => session.keep(given({ a, b }, 'b', thing.id, line))}
          >
            <ArrowRight size={14} aria-hidden />
          </Take>
          <Value text={line.b} />
        </div>
      ))}
    </div>
  );
}

function Value({ text, right }: { text: string; right?: boolean }) {
  return (
    <span className={`truncate font-mono text-[11.5px] ${right ? 'text-right' : ''}`} title={text}>
      {text}
    </span>
  );
}

function Take({ word, take, children }: { word: string; take: () => void; children: React.ReactNode }) {
  return (
    <button
      type="button"
      className="grid h-6 w-6 place-items-center rounded text-ink-2 hover:bg-wash hover:text-plum"
      aria-label={word}
      title={word}
      onClick={take}
    >
      {children}
    </button>
  );
}
