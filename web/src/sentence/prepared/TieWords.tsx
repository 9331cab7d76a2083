import { useMemo } from 'react';
import { changePlan, hoverPlan } from '../../acts/planning';
import { axisOf, tied } from '../../acts/ties';
import { middleCut } from '../../controls/middleCut';
import { TargetField } from '../../controls/TargetField';
import { axes, axisWord, kinds, upOf, upWord } from '../../controls/constraintWords';
import type { PlanOf, TieKind } from '../../state/plan';
import { set, useStore } from '../../state/store';
import { Word } from '../Word';

type Tie = PlanOf<'tie'>;

/** Verbs of the kinds, with what stands between what is picked and the target. */
const verbs: Record<TieKind, [string, string]> = {
  aim: ['Aim', 'at'],
  turnTo: ['Turn', 'to'],
  swivel: ['Swivel', 'to'],
  follow: ['Let', 'follow'],
  matchRotation: ['Let', 'turn as'],
  matchScale: ['Size', 'like'],
  rideOn: ['Let', 'ride on'],
  limit: ['Limit', ''],
  stayOnSurface: ['Keep', 'on the surface of'],
};

const means: Partial<Record<TieKind, string>> = {
  aim: 'lasting: it keeps pointing there',
  turnTo: 'once: nothing of it lasts',
};

/** "Aim Tube at … with its +Y, up by the world's Y": a constraint, as Enter would add it. */
export function TieWords({ plan }: { plan: Tie }) {
  const selection = useStore((s) => s.selection);
  const byId = useStore((s) => s.byId);
  const picked = tied(plan, selection);
  const [verb, preposition] = verbs[plan.link]!;
  const choices = kinds.map((k) => ({
    value: k.kind as TieKind,
    word: k.word,
    means: k.kind === 'aim' ? means.aim! : k.means,
  }));
  choices.splice(1, 0, { value: 'turnTo', word: 'Turn to', means: means.turnTo! });
  const faces = plan.link === 'aim' || plan.link === 'turnTo' || plan.link === 'swivel';
  return (
    <>
      <Word
        label="What it does"
        chosen={plan.link}
        choices={() => choices}
        hover={(link) => hoverPlan(link === null ? null : { link })}
        choose={(link) => {
          changePlan({ link });
          set({ picking: link === 'limit' ? null : 'target' });
        }}
      >
        {verb}
      </Word>
      <b className="font-semibold">
        {picked.length === 1 ? middleCut(byId.get(picked[0]!)?.name ?? '', 32) : `${picked.length} objects`}
      </b>
      {preposition && <span>{preposition}</span>}
      {plan.link !== 'limit' && <Target value={plan.target} />}
      {plan.link === 'limit' && (
        <Word
          label="What is limited"
          chosen={plan.of}
          choices={() => (['position', 'rotation', 'scale'] as const).map((of) => ({ value: of, word: `its ${of}` }))}
          hover={(of) => hoverPlan(of === null ? null : { of })}
          choose={(of) => changePlan({ of })}
        >
          {`in its ${plan.of}`}
        </Word>
      )}
      {faces && <AxisWord plan={plan} />}
      {plan.link === 'swivel' && (
        <span className="flex items-center gap-2 whitespace-nowrap">
          <span>about</span>
          <Word
            label="Hinge"
            chosen={plan.hinge}
            choices={() =>
              (['x', 'y', 'z'] as const).map((axis) => ({ value: axis, word: `its parent's ${axis.toUpperCase()}` }))
            }
            hover={(hinge) => hoverPlan(hinge === null ? null : { hinge })}
            choose={(hinge) => changePlan({ hinge })}
          >
            {`its parent's ${plan.hinge.toUpperCase()}`}
          </Word>
        </span>
      )}
      {(plan.link === 'aim' || plan.link === 'turnTo') && <UpWord plan={plan} />}
    </>
  );
}

/** The target: pressed on the stage or in the tree, chosen by name, or the lead of several. */
export function Target({ value }: { value: string | null }) {
  const selection = useStore((s) => s.selection);
  const lead = useStore((s) => s.byId.get(s.selection.at(-1) ?? '')?.name ?? '');
  const tie = useStore((s) => s.plan?.kind === 'tie');
  const choose = (target: string) => {
    set({ picking: 'target' });
    changePlan({ target });
  };
  return (
    <span className="flex items-center gap-2 whitespace-nowrap">
      <span className="flex max-w-56">
        <TargetField
          label="Target"
          empty="what you press"
          value={value}
          without={selection.slice(0, tie && selection.length > 1 ? -1 : undefined)}
          choose={choose}
        />
      </span>
      {value === null && tie && selection.length > 1 && (
        <button type="button" className="word" onClick={() => choose(selection.at(-1)!)}>
          {`or the lead, ${middleCut(lead, 20)}`}
        </button>
      )}
    </span>
  );
}

function AxisWord({ plan }: { plan: Tie }) {
  const selection = useStore((s) => s.selection);
  const changes = useStore((s) => s.prepared);
  const axis = useMemo(() => axisOf(plan, selection), [plan, selection, changes]);
  const many = tied(plan, selection).length > 1;
  return (
    <span className="flex items-center gap-2 whitespace-nowrap">
      <span>{many ? 'with their' : 'with its'}</span>
      <Word
        label="Axis"
        chosen={axis ?? ''}
        choices={() => axes.map((value) => ({ value: value as string, word: axisWord(value) }))}
        hover={(value) => hoverPlan(value === null ? null : { axis: value })}
        choose={(value) => changePlan({ axis: value })}
        more={[
          ...(plan.axis === null ? [] : [{ word: 'What moves least', act: () => changePlan({ axis: null }) }]),
          ...(many ? [] : [{ word: 'Press a face of it…', act: () => set({ picking: 'aimFace', notice: null }) }]),
          ...(plan.face ? [{ word: 'Not the pressed face', act: () => changePlan({ face: null }) }] : []),
        ]}
      >
        {plan.face ? 'pressed face' : axis === null ? 'nearest axis' : axisWord(axis)}
      </Word>
    </span>
  );
}

function UpWord({ plan }: { plan: Tie }) {
  const toward = useStore((s) =>
    upOf(plan.up) === 'toward' ? s.byId.get((plan.up as { toward: string }).toward)?.name : undefined,
  );
  return (
    <span className="flex items-center gap-2 whitespace-nowrap">
      <span>up</span>
      <Word
        label="Up"
        chosen={upWord(plan.up, toward)}
        choices={() => ups.map(({ word, means: said }) => ({ value: word, word, means: said }))}
        hover={(word) => hoverPlan(word === null ? null : { up: ups.find((u) => u.word === word)!.up })}
        choose={(word) => changePlan({ up: ups.find((u) => u.word === word)!.up })}
        more={[{ word: 'Toward an object that you press…', act: () => set({ picking: 'upward', notice: null }) }]}
      >
        {upWord(plan.up, toward)}
      </Word>
    </span>
  );
}

const ups: { word: string; means: string; up: Tie['up'] }[] = [
  { word: "by the world's Y", means: 'upright as the ground is', up: { world: '+y' } },
  { word: "by the world's Z", means: '', up: { world: '+z' } },
  { word: "by its parent's Y", means: 'it leans as what carries it', up: { parent: '+y' } },
  { word: 'by nothing', means: 'it turns as little as it can and never rolls over', up: 'least' },
];
