import { changePlan, hoverPlan } from '../../acts/planning';
import { axes, axisWord } from '../../controls/constraintWords';
import { middleCut } from '../../controls/middleCut';
import type { PlanOf } from '../../state/plan';
import { useStore } from '../../state/store';
import { Word } from '../Word';
import { Picked } from './PlanParts';
import { Target } from './TieWords';

/** "Pan and tilt: Plate turns, Barrel tips to face …": the lead is the base. */
export function MountWords({ plan }: { plan: PlanOf<'mount'> }) {
  const selection = useStore((s) => s.selection);
  const byId = useStore((s) => s.byId);
  const name = (id: string | undefined) => middleCut(byId.get(id ?? '')?.name ?? '', 28);
  const tips = selection.slice(0, -1);
  return (
    <>
      <b className="font-semibold">{name(selection.at(-1))}</b>
      <span>turns,</span>
      <b className="font-semibold">{tips.length === 1 ? name(tips[0]) : `${tips.length} objects`}</b>
      <span>{tips.length === 1 ? 'tips' : 'tip'} to face</span>
      <Target value={plan.target} />
      <span className="flex items-center gap-2 whitespace-nowrap">
        <span>with {tips.length === 1 ? 'its' : 'their'}</span>
        <Word
          label="Axis"
          chosen={plan.facing ?? ''}
          choices={() => [
            { value: '', word: 'long end', means: 'or the axis nearest to the target' },
            ...axes.map((value) => ({ value: value as string, word: axisWord(value) })),
          ]}
          hover={(value) => hoverPlan(value === null ? null : { facing: value || null })}
          choose={(value) => changePlan({ facing: value || null })}
        >
          {plan.facing === null ? 'long end' : axisWord(plan.facing)}
        </Word>
      </span>
      <span>·</span>
      <Word
        label="Pivot of the base"
        chosen={plan.mend ? 'mend' : 'leave'}
        choices={() => [
          { value: 'leave', word: 'pivot as it is', means: '' },
          { value: 'mend', word: 'pivot mended', means: 'on the line through its middle; nothing moves for it' },
        ]}
        hover={(way) => hoverPlan(way === null ? null : { mend: way === 'mend' })}
        choose={(way) => changePlan({ mend: way === 'mend' })}
      >
        {plan.mend ? 'pivot mended' : 'pivot as it is'}
      </Word>
    </>
  );
}

/** The lead gives its constraints to the others that are picked. */
export function GiveWords() {
  const selection = useStore((s) => s.selection);
  const byId = useStore((s) => s.byId);
  const name = (id: string | undefined) => middleCut(byId.get(id ?? '')?.name ?? '', 28);
  return (
    <>
      <span>Give</span>
      <b className="font-semibold">{selection.length === 2 ? name(selection[0]) : `${selection.length - 1} objects`}</b>
      <span>the constraints of</span>
      <b className="font-semibold">{name(selection.at(-1))}</b>
      <span className="text-ink-2">each within its own group</span>
    </>
  );
}

export function DriveWords() {
  const many = useStore((s) => s.selection.length > 1);
  return (
    <>
      <span>Make a controller ahead that</span>
      <Picked />
      <span>{many ? 'aim at' : 'aims at'}</span>
    </>
  );
}
