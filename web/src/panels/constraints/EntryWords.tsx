import { useEffect, useState } from 'react';
import type { Constraint, Vec3 } from '../../core/answers';
import type { EditSetConstraint } from '../../wire/apiTypes';
import { session } from '../../acts/session';
import { NumberField, type Quantity } from '../../controls/NumberField';
import { angle, factor, length } from '../../controls/numbers';
import { startPicking } from '../../commands/placing';
import { get, set, useStore, type PageState } from '../../state/store';
import { TargetField } from '../../controls/TargetField';
import { axes, axisWord, kinds, upOf } from '../../controls/constraintWords';

/** The fields of an entry that can be changed. */
export type Fields = Omit<EditSetConstraint, 'do' | 'of'>;

interface Props {
  node: string;
  entry: Constraint;
  change: (fields: Fields) => boolean;
}

/** The words of an entry: what it looks at, and how. */
export function EntryWords({ node, entry, change }: Props) {
  return (
    <div className="mt-1 grid grid-cols-[72px_1fr] items-center gap-x-2 gap-y-1">
      <Line word="Kind">
        <Choice
          label="Kind"
          value={entry.kind}
          // What looks at nothing cannot become what looks at something: nobody has said at what.
          choices={kinds
            .filter((k) => !k.looks || entry.target !== undefined)
            .map((k): [string, string] => [k.kind, k.word])}
          choose={(kind) => change({ kind })}
        />
      </Line>
      {entry.target !== undefined && (
        <Line word="Target">
          <TargetField label="Target" value={entry.target} without={[node]} choose={(target) => change({ target })} />
        </Line>
      )}
      {(entry.kind === 'aim' || entry.kind === 'swivel') && <LooksAt node={node} entry={entry} change={change} />}
      {entry.kind === 'aim' && <AimWords node={node} entry={entry} change={change} />}
      {entry.kind === 'swivel' && <SwivelWords entry={entry} change={change} />}
      {entry.axes !== undefined && (
        <Line word="Axes">
          <Mask value={entry.axes} choose={(mask) => change({ axes: mask })} />
        </Line>
      )}
      {entry.kind === 'limit' && <LimitWords entry={entry} change={change} />}
      {entry.frame !== undefined && (
        <Line word="In">
          <Choice
            label="Frame"
            value={entry.frame}
            choices={[
              ['world', "the world's frame"],
              ['parent', "its parent's frame"],
            ]}
            choose={(frame) => change({ frame })}
          />
        </Line>
      )}
      {entry.kind === 'stayOnSurface' && <StayWords entry={entry} change={change} />}
      {entry.offset !== undefined && entry.offset.length === 3 && (
        <Line word="Offset">
          <Three
            label="Offset"
            channel={`constraint:${entry.id}.offset`}
            value={entry.offset}
            quantity={entry.kind === 'follow' ? 'length' : entry.kind === 'matchScale' ? 'factor' : 'angle'}
            keep={(offset) => change({ offset: offset.map((v) => v ?? 0) })}
          />
        </Line>
      )}
      {entry.kind === 'matchRotation' && entry.axes?.length === 1 && (
        <Line word="Factor">
          <Maybe
            label="Factor"
            value={entry.factor}
            quantity="factor"
            keep={(v) => change({ factor: v })}
            take={() => change({ without: ['factor'] })}
            start={1}
          />
        </Line>
      )}
    </div>
  );
}

/** What of its target it looks at: the pivot, or a place that was pressed on it. */
function LooksAt({ node, entry, change }: Props) {
  const { id } = entry;
  const isAsked = (s: PageState) => s.picking === 'aimPlace' && s.looking?.node === node && s.looking.id === id;
  const isPressing = useStore(isAsked);
  // Who takes the entry away, here or in another window, takes the question with it.
  useEffect(
    () => () => {
      if (isAsked(get())) set({ picking: null, looking: null });
    },
    [node, id],
  );
  return (
    <Line word="At">
      <div className="flex flex-wrap items-center gap-1">
        {!entry.point && <span className="text-ink-2">its pivot</span>}
        <button
          type="button"
          className="btn-quiet"
          aria-pressed={isPressing}
          onClick={() => {
            if (isPressing) set({ picking: null });
            else {
              startPicking('aimPlace');
              set({ looking: { node, id: entry.id, target: entry.target } });
            }
          }}
        >
          {entry.point ? 'Another place' : 'Press a place'}
        </button>
        {entry.point && (
          <button type="button" className="btn-quiet" onClick={() => change({ without: ['point'] })}>
            Its pivot
          </button>
        )}
      </div>
    </Line>
  );
}

function AimWords({ node, entry, change }: Props) {
  const up = entry.up ?? 'least';
  const kind = upOf(up);
  // An object is asked for before it counts.
  const [asking, setAsking] = useState(false);
  const shown = asking ? 'toward' : kind;
  const axis = typeof up === 'string' ? '+y' : 'world' in up ? up.world : 'parent' in up ? up.parent : '+y';
  return (
    <>
      <Line word="With its">
        <AxisChoice label="Axis that aims" value={entry.axis!} choose={(to) => change({ axis: to })} />
      </Line>
      <Line word="Upright">
        <AxisChoice
          label="Axis kept upright"
          value={entry.upAxis!}
          without={entry.axis!.slice(1)}
          choose={(upAxis) => change({ upAxis })}
        />
      </Line>
      <Line word="Up by">
        <Choice
          label="Up by"
          value={shown}
          choices={[
            ['world', "the world's"],
            ['parent', "its parent's"],
            ['toward', 'an object'],
            ['least', 'nothing'],
          ]}
          choose={(to) => {
            setAsking(to === 'toward' && kind !== 'toward');
            if (to === 'least') change({ up: 'least' });
            else if (to === 'world') change({ up: { world: axis } });
            else if (to === 'parent') change({ up: { parent: axis } });
          }}
        />
        {shown === 'toward' && (
          <TargetField
            label="Up object"
            value={typeof up !== 'string' && 'toward' in up ? up.toward : null}
            without={[node]}
            choose={(toward) => {
              setAsking(false);
              change({ up: { toward } });
            }}
          />
        )}
        {(shown === 'world' || shown === 'parent') && (
          <AxisChoice
            short
            label="Up"
            value={axis}
            choose={(to) => change({ up: kind === 'world' ? { world: to } : { parent: to } })}
          />
        )}
      </Line>
    </>
  );
}

const hinges: readonly [string, Vec3][] = [
  ['x', [1, 0, 0]],
  ['y', [0, 1, 0]],
  ['z', [0, 0, 1]],
];

function SwivelWords({ entry, change }: Omit<Props, 'node'>) {
  const hinge = hinges.find(([, v]) => v.every((n, i) => Math.abs(n - entry.hinge![i]!) < 1e-9))?.[0] ?? 'other';
  return (
    <>
      <Line word="With its">
        <AxisChoice label="Axis that faces it" value={entry.facing!} choose={(facing) => change({ facing })} />
      </Line>
      <Line word="Hinge">
        <Choice
          label="Hinge"
          value={hinge}
          choices={[
            ...hinges.map(([word]): [string, string] => [word, `its parent's ${word.toUpperCase()}`]),
            ...(hinge === 'other' ? [['other', 'a direction'] as [string, string]] : []),
          ]}
          choose={(to) => {
            const [, direction] = hinges.find(([word]) => word === to) ?? [];
            if (direction) change({ hinge: direction });
          }}
        />
      </Line>
      {(['from', 'to'] as const).map((bound) => (
        <Line key={bound} word={bound === 'from' ? 'From' : 'To'}>
          <Maybe
            label={bound === 'from' ? 'From' : 'To'}
            value={entry[bound]}
            quantity="angle"
            keep={(v) => change(bound === 'from' ? { from: v } : { to: v })}
            take={() => change({ without: [bound] })}
            start={bound === 'from' ? -90 : 90}
          />
        </Line>
      ))}
    </>
  );
}

function LimitWords({ entry, change }: Omit<Props, 'node'>) {
  const quantity = entry.of === 'position' ? 'length' : entry.of === 'rotation' ? 'angle' : 'factor';
  return (['low', 'high'] as const).map((bound) => (
    <Line key={bound} word={bound === 'low' ? 'At least' : 'At most'}>
      <Three
        label={bound === 'low' ? 'At least' : 'At most'}
        value={entry[bound] ?? [null, null, null]}
        quantity={quantity}
        none="–"
        keep={(v) => change(bound === 'low' ? { low: v } : { high: v })}
      />
    </Line>
  ));
}

function StayWords({ entry, change }: Omit<Props, 'node'>) {
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  return (
    <>
      <Line word="Where">
        <Choice
          label="Where on it"
          value={entry.how!}
          choices={[
            ['nearest', 'at the nearest point'],
            ['along', 'straight down on it'],
          ]}
          choose={(how) => change(how === 'along' ? { how, along: [0, -1, 0] } : { how })}
        />
      </Line>
      <Line word="Turns its">
        <Choice
          label="Axis along the normal"
          value={entry.align ?? 'none'}
          choices={[['none', 'nothing'], ...axes.map((a): [string, string] => [a, `${axisWord(a)} to the normal`])]}
          choose={(to) => change(to === 'none' ? { without: ['align'] } : { align: to })}
        />
      </Line>
      <Line word="Above it">
        <NumberField
          label="Above it"
          value={entry.offset?.[0] ?? 0}
          quantity="length"
          shown={(v) => length(v, unit)}
          keep={(v) => change({ offset: [v] })}
          channel={`constraint:${entry.id}.offset`}
        />
      </Line>
    </>
  );
}

function Line({ word, children }: { word: string; children: React.ReactNode }) {
  return (
    <>
      <span className="text-ink-2">{word}</span>
      <span className="flex min-w-0 items-center gap-1">{children}</span>
    </>
  );
}

function Choice(props: {
  label: string;
  value: string;
  short?: boolean;
  choices: readonly (readonly [string, string])[];
  choose: (value: string) => void;
}) {
  return (
    <select
      className={`field min-w-0 ${props.short ? 'w-16 shrink-0' : ''}`}
      aria-label={props.label}
      value={props.value}
      onChange={(e) => props.choose(e.target.value)}
      onKeyDown={(e) => e.stopPropagation()}
    >
      {props.choices.map(([value, word]) => (
        <option key={value} value={value}>
          {word}
        </option>
      ))}
    </select>
  );
}

function AxisChoice(props: {
  label: string;
  value: string;
  short?: boolean;
  without?: string;
  choose: (axis: string) => void;
}) {
  return (
    <Choice
      label={props.label}
      value={props.value}
      short={props.short ?? false}
      choices={axes.filter((a) => a.slice(1) !== props.without).map((a) => [a, axisWord(a)])}
      choose={props.choose}
    />
  );
}

function Mask({ value, choose }: { value: string; choose: (mask: string) => void }) {
  return (
    <span role="group" aria-label="Axes" className="flex gap-1">
      {['x', 'y', 'z'].map((letter) => {
        const on = value.includes(letter);
        return (
          <button
            key={letter}
            type="button"
            className={`btn w-8 justify-center ${on ? 'border-plum bg-wash font-semibold text-plum' : ''}`}
            aria-pressed={on}
            aria-label={letter.toUpperCase()}
            title={on && value.length === 1 ? 'One axis at least; to let it do nothing, switch it off' : undefined}
            onClick={() => {
              const mask = [...'xyz'].filter((l) => (l === letter ? !on : value.includes(l))).join('');
              if (mask) choose(mask);
              else
                session.say({
                  kind: 'warning',
                  text: 'It needs one axis at least. To let it do nothing, switch it off.',
                });
            }}
          >
            {letter.toUpperCase()}
          </button>
        );
      })}
    </span>
  );
}

function Three(props: {
  label: string;
  value: readonly (number | null)[];
  quantity: Quantity;
  none?: string;
  /** The channel by which shots may have it of their own. */
  channel?: string;
  keep: (value: (number | null)[]) => boolean;
}) {
  const shown = useShown(props.quantity);
  return (
    <span className="grid min-w-0 flex-1 grid-cols-3 gap-1">
      {['X', 'Y', 'Z'].map((letter, i) => (
        <NumberField
          key={letter}
          narrow
          label={`${props.label} ${letter}`}
          value={props.value[i] ?? null}
          quantity={props.quantity}
          shown={shown}
          keep={(v) => props.keep(props.value.map((old, j) => (j === i ? v : old)))}
          {...(props.channel === undefined ? {} : { channel: props.channel })}
        />
      ))}
    </span>
  );
}

/** A number that may be missing. */
function Maybe(props: {
  label: string;
  value: number | null | undefined;
  quantity: Quantity;
  start: number;
  keep: (value: number) => boolean;
  take: () => boolean;
}) {
  const shown = useShown(props.quantity);
  if (props.value === undefined || props.value === null)
    return (
      <button type="button" className="btn" aria-label={`Set ${props.label}`} onClick={() => props.keep(props.start)}>
        none
      </button>
    );
  return (
    <>
      <NumberField label={props.label} value={props.value} quantity={props.quantity} shown={shown} keep={props.keep} />
      <button type="button" className="btn" aria-label={`Without ${props.label}`} title="None" onClick={props.take}>
        ×
      </button>
    </>
  );
}

function useShown(quantity: Quantity): (value: number) => string {
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  return quantity === 'length' ? (v) => length(v, unit) : quantity === 'angle' ? angle : factor;
}
