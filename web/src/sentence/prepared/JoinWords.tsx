import { changePlan } from '../../acts/planning';
import { middleCut } from '../../controls/middleCut';
import type { PlanOf } from '../../state/plan';
import { useStore } from '../../state/store';
import { Word } from '../Word';
import { Picked } from './PlanParts';

/** Joining where other shots show some of the parts otherwise: they follow, or those parts stay by themselves. */
export function JoinWords({ plan }: { plan: PlanOf<'join'> }) {
  const lead = useStore((s) => s.byId.get(s.selection.at(-1) ?? '')?.name ?? '');
  const inShot = useStore((s) => s.shot !== null);
  const follow = inShot ? 'as this shot shows it' : 'as the scene has it';
  const keep = 'but for what differs elsewhere';
  return (
    <>
      <span>Join</span>
      <Picked />
      <span>into {middleCut(lead, 32)}</span>
      <Word
        label="What other shots do"
        chosen={plan.others}
        choices={() => [
          { value: 'follow', word: follow, means: 'in every shot all corners stand to the lead as they do here' },
          {
            value: 'keep',
            word: keep,
            means: 'what stands or is seen otherwise stays an object of its own; nothing moves',
          },
        ]}
        choose={(others) => changePlan({ others })}
      >
        {plan.others === 'follow' ? follow : keep}
      </Word>
    </>
  );
}
