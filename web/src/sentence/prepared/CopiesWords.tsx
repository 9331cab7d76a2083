import { useState } from 'react';
import { isRefusal } from '../../core/answers';
import { changePlan, usualStep } from '../../acts/planning';
import type { CopyStep, MirrorPlane, PlanOf } from '../../state/plan';
import { session } from '../../acts/session';
import { useStore, type AboutKind, type SpaceKind } from '../../state/store';
import { Word } from '../Word';
import { aboutsFor, spacesFor } from '../../acts/words';
import { Count, keepOrLeave, Picked } from './PlanParts';

const verbs = [
  { value: 'move', word: 'moved', means: 'a row' },
  { value: 'rotate', word: 'turned', means: 'a ring, about a point' },
  { value: 'scale', word: 'scaled', means: 'smaller or larger each time' },
] as const;

const axes = [
  { value: 'x', word: 'X' },
  { value: 'y', word: 'Y' },
  { value: 'z', word: 'Z' },
] as const;

const planes = { x: 'YZ plane', y: 'XZ plane', z: 'XY plane' };

/** What the words for spaces and points mean from copy to copy, where it is not plain. */
const ofCopies: Partial<Record<SpaceKind | AboutKind, string>> = {
  own: 'of the copy before',
  lead: 'of the copies before',
  bounds: 'of what is copied',
  mean: 'of what is copied',
};

/** The spaces and points that copies can go along and about: those of the sentence, as far as they mean something here. */
function useReferences(turning: boolean) {
  const picked = useStore((s) => s.picked);
  const many = useStore((s) => s.selection.length > 1);
  const marks = useStore((s) => s.marks);
  const usable = (kind: SpaceKind | AboutKind) =>
    ({ lead: many, mean: many, surface: picked?.normal != null, point: picked !== null })[kind as string] ?? true;
  const choices = <K extends SpaceKind | AboutKind>(words: { kind: K; one: string; many: string; means: string }[]) =>
    words
      .filter(({ kind }) => usable(kind))
      .map(({ kind, one, many: several, means }) => ({
        value: kind,
        word: kind === 'point' && picked?.part ? `${picked.part}’s place` : many ? several : one,
        means: ofCopies[kind] ?? means,
      }));
  return { spaces: choices(spacesFor(turning ? 'rotate' : 'move', { marks })), abouts: choices(aboutsFor({ marks })) };
}

/** Points of a thing itself: turned about them alone, its copies stand where it does. */
const ofItself = new Set<AboutKind>(['own', 'bounds', 'mean']);

/** The plane of a counterpart: whose, which, and through which point. */
function Plane({ plane, change }: { plane: MirrorPlane; change: (plane: MirrorPlane) => void }) {
  const { spaces, abouts } = useReferences(false);
  return (
    <span className="flex flex-wrap items-center gap-x-2">
      <span>across</span>
      <Word
        label="Whose plane"
        chosen={plane.space}
        choices={() => spaces}
        choose={(space) => change({ ...plane, space })}
      >
        {spaces.find((s) => s.value === plane.space)?.word ?? "the world's"}
      </Word>
      <Word
        label="Mirror plane"
        chosen={plane.axis}
        choices={() => [
          { value: 'x' as const, word: planes.x, means: 'left and right' },
          { value: 'y' as const, word: planes.y, means: 'up and down' },
          { value: 'z' as const, word: planes.z, means: 'front and back' },
        ]}
        choose={(axis) => change({ ...plane, axis })}
      >
        {planes[plane.axis]}
      </Word>
      <span>through</span>
      <Word
        label="Through which point"
        chosen={plane.about}
        choices={() => abouts}
        choose={(about) => change({ ...plane, about })}
        more={placesToPress((about) => change({ ...plane, about }))}
      >
        {abouts.find((a) => a.value === plane.about)?.word ?? 'world zero'}
      </Word>
    </span>
  );
}

/** How many copies, what happens from one to the next, and whether they share their shape. */
export function CopiesWords({ plan }: { plan: PlanOf<'copies'> }) {
  const total = (plan.count + 1) * ((plan.across?.count ?? 0) + 1) - 1;
  const setStep = (i: number, change: Partial<CopyStep>) =>
    changePlan({ steps: plan.steps.map((step, k) => (k === i ? { ...step, ...change } : step)) });
  return (
    <>
      <span>Make</span>
      {plan.mirror ? (
        <span>a mirrored counterpart</span>
      ) : (
        <Count label="How many copies" value={plan.count} change={(count) => changePlan({ count })} />
      )}
      {!plan.mirror && <span>{plan.count === 1 ? 'copy' : 'copies'}</span>}
      <span>of</span>
      <Picked />
      {plan.mirror && <Plane plane={plan.mirror} change={(mirror) => changePlan({ mirror })} />}
      {plan.steps.map((step, i) => (
        <Step
          key={i}
          step={step}
          first={i === 0}
          alone={plan.steps.length === 1}
          change={(change) => setStep(i, change)}
          remove={() => changePlan({ steps: plan.steps.filter((_, k) => k !== i) })}
        />
      ))}
      {plan.across && (
        <span className="flex flex-wrap items-center gap-x-2">
          <span>and again</span>
          <Count
            label="How many rows more"
            value={plan.across.count}
            change={(count) => changePlan({ across: { ...plan.across!, count } })}
          />
          <span>× across,</span>
          <Step
            step={plan.across.step}
            first
            alone
            change={(change) => changePlan({ across: { ...plan.across!, step: { ...plan.across!.step, ...change } } })}
            remove={() => changePlan({ across: null })}
          />
        </span>
      )}
      <span className="flex items-center gap-2 whitespace-nowrap">
        <Word
          label="Sharing or independent"
          chosen={plan.sharing ? 'sharing' : 'own'}
          choices={() => [
            { value: 'own', word: 'independent', means: 'each has its own shape' },
            { value: 'sharing', word: 'sharing', means: 'they share the shape: one change shows in all' },
          ]}
          choose={(value) => changePlan({ sharing: value === 'sharing' })}
          more={
            plan.mirror
              ? []
              : [
                  ...(plan.steps.length < 3
                    ? [
                        {
                          word: 'Also do something else from copy to copy',
                          act: () =>
                            changePlan({
                              steps: [
                                ...plan.steps,
                                { ...usualStep(), do: 'rotate' as const, amount: 15, axis: 'y' as const },
                              ],
                            }),
                        },
                      ]
                    : []),
                  ...(plan.across
                    ? []
                    : [
                        {
                          word: 'Repeat them across, as a grid',
                          act: () => changePlan({ across: { count: 1, step: { ...usualStep(), axis: 'z' } } }),
                        },
                      ]),
                ]
          }
        >
          {plan.sharing ? 'sharing' : 'independent'}
        </Word>
        {total > 1 && <span className="text-ink-2">{total} in all</span>}
      </span>
    </>
  );
}

function Step(props: {
  step: CopyStep;
  first: boolean;
  /** Nothing else happens from copy to copy. */
  alone: boolean;
  change: (change: Partial<CopyStep>) => void;
  remove: () => void;
}) {
  const { step, change, alone } = props;
  const many = useStore((s) => s.selection.length > 1);
  const { spaces, abouts: all } = useReferences(step.do === 'rotate');
  const abouts = alone && step.do === 'rotate' ? all.filter((a) => !ofItself.has(a.value)) : all;
  return (
    <span className="flex flex-wrap items-center gap-x-2" data-copy-step>
      <span>{props.first ? 'each next one' : 'and'}</span>
      <Word
        label="What happens from copy to copy"
        chosen={step.do}
        choices={() => [...verbs]}
        choose={(verb) =>
          change({
            do: verb,
            amount: { move: usualStep().amount, rotate: 30, scale: 0.8 }[verb],
            // About its own pivot a ring would be a heap.
            ...(verb === 'rotate' ? { axis: 'y', about: alone && many ? 'lead' : alone ? 'zero' : step.about } : {}),
          })
        }
        more={[{ word: 'Leave this out', act: props.remove }]}
      >
        {verbs.find((v) => v.value === step.do)!.word}
      </Word>
      <Amount step={step} change={(amount) => change({ amount })} />
      {step.do !== 'scale' && (
        <>
          <span>along</span>
          <Word
            label="Space of the copies"
            chosen={step.space}
            choices={() => spaces}
            choose={(space) => change({ space })}
          >
            {spaces.find((s) => s.value === step.space)?.word ?? "the world's"}
          </Word>
          <Word
            label="Axis of the copies"
            chosen={step.axis}
            choices={() => [...axes]}
            choose={(axis) => change({ axis })}
          >
            {step.axis.toUpperCase()}
          </Word>
        </>
      )}
      {step.do !== 'move' && (
        <>
          <span>about</span>
          <Word
            label="About which point from copy to copy"
            chosen={step.about}
            choices={() => abouts}
            choose={(about) => change({ about })}
            more={placesToPress((about) => change({ about }))}
          >
            {abouts.find((a) => a.value === step.about)?.word ?? 'its pivot'}
          </Word>
        </>
      )}
    </span>
  );
}

/** Points of the scene that are pressed; such a point stays picked for the sentence, too. */
function placesToPress(choose: (about: AboutKind) => void) {
  const press = (picking: 'centre' | 'point') => () => {
    useStore.setState({ picking, notice: null });
    const stop = useStore.subscribe((now) => {
      if (now.plan?.kind !== 'copies') stop();
      else if (now.picking === null) {
        stop();
        if (now.picked) choose('point');
      }
    });
  };
  return [
    { word: 'The pivot of an object that I press', act: press('centre') },
    { word: 'A point that I press', act: press('point') },
  ];
}

/** A typed length, angle or factor, understood by the core. */
function Amount({ step, change }: { step: CopyStep; change: (amount: number) => void }) {
  const said =
    step.do === 'move'
      ? session.core.sayLength(step.amount)
      : step.do === 'rotate'
        ? `${step.amount}°`
        : `× ${step.amount}`;
  const [text, setText] = useState<string | null>(null);
  const take = () => {
    if (text === null || text.trim() === '') {
      setText(null);
      return;
    }
    const quantity = ({ move: 'length', rotate: 'angle', scale: 'factor' } as const)[step.do];
    const understood = session.core.understand(text, quantity, false, 0);
    setText(null);
    if (isRefusal(understood)) session.say({ kind: 'refusal', text: understood.detail });
    else change(understood.value);
  };
  return (
    <input
      className="field w-24"
      aria-label="Amount from copy to copy"
      value={text ?? said}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setText(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => {
        if (e.key === 'Enter' && text !== null) {
          take();
          e.preventDefault();
          e.stopPropagation();
        } else keepOrLeave(e);
      }}
    />
  );
}
