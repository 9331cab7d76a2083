import { session } from '../../acts/session';
import { additions } from '../../commands/additions';
import { useStore, type AddWhere } from '../../state/store';
import { addTo, changePlan, keepPlan, leavePlan } from '../../acts/planning';
import { sized } from '../../acts/usualShapes';
import { ShapeWords } from './ShapeWords';
import type { Plan, PlanOf } from '../../state/plan';
import { middleCut } from '../../controls/middleCut';
import { Word } from '../Word';
import { CopiesWords } from './CopiesWords';
import { Count } from './PlanParts';
import { JoinWords } from './JoinWords';
import { DriveWords, GiveWords, MountWords } from './MountWords';
import { RenameWords } from './RenameWords';
import { TieWords } from './TieWords';
import { keepOrLeave, Named, Picked } from './PlanParts';

/** The sentence of what is being prepared: it says what Enter will make. */
export function PlanWords({ plan }: { plan: Plan }) {
  return (
    <div className="flex w-full flex-wrap items-center gap-x-2 gap-y-1" data-plan={plan.kind}>
      {plan.kind === 'under' && <UnderWords plan={plan} />}
      {plan.kind === 'group' && <GroupWords plan={plan} />}
      {plan.kind === 'copies' && <CopiesWords plan={plan} />}
      {plan.kind === 'add' && <AddWords plan={plan} />}
      {plan.kind === 'more' && <MoreWords plan={plan} />}
      {plan.kind === 'collect' && <CollectWords plan={plan} />}
      {plan.kind === 'remove' && <RemoveWords plan={plan} />}
      {plan.kind === 'tie' && <TieWords plan={plan} />}
      {plan.kind === 'mount' && <MountWords plan={plan} />}
      {plan.kind === 'give' && <GiveWords />}
      {plan.kind === 'drive' && <DriveWords />}
      {plan.kind === 'join' && <JoinWords plan={plan} />}
      {plan.kind === 'sure' && <SureWords plan={plan} />}
      {plan.kind === 'rename' && <RenameWords plan={plan} />}
      <span className="ml-auto flex gap-1.5">
        <button type="button" className="btn" onClick={leavePlan} title="Esc">
          Leave it
        </button>
        <button
          type="button"
          className="btn border-plum text-plum"
          data-make
          onClick={keepPlan}
          title="Enter"
          disabled={lacks(plan)}
        >
          Make it
        </button>
      </span>
    </div>
  );
}

/** What is still to be pressed. */
export function lacks(plan: Plan): boolean {
  if (plan.kind === 'under') return plan.waiting;
  return (plan.kind === 'mount' || (plan.kind === 'tie' && plan.link !== 'limit')) && plan.target === null;
}

function SureWords({ plan }: { plan: PlanOf<'sure'> }) {
  return (
    <>
      <span>{plan.says[0]}</span>
      <Named ids={plan.of} />
      <span>{plan.says[1]}</span>
    </>
  );
}

function UnderWords({ plan }: { plan: PlanOf<'under'> }) {
  const parent = useStore((s) => s.byId.get(plan.parent ?? '')?.name);
  const again = () => {
    changePlan({ waiting: true });
    useStore.setState({ picking: 'parent' });
  };
  const out = !plan.waiting && plan.parent === null;
  return (
    <>
      <span>{out ? 'Take' : 'Put'}</span>
      <Picked />
      <span>{out ? 'out' : 'under'}</span>
      <button type="button" className="word" aria-label="The parent" onClick={again}>
        {plan.waiting ? 'the object that you press' : out ? 'to the top' : middleCut(parent ?? '', 32)}
      </button>
      <span>·</span>
      <Word
        label="What is kept"
        chosen={plan.keep}
        choices={() => [
          { value: 'world', word: 'places kept', means: 'nothing moves' },
          { value: 'numbers', word: 'numbers kept', means: 'it jumps to where its numbers lead from the new parent' },
        ]}
        choose={(keep) => changePlan({ keep })}
      >
        {plan.keep === 'world' ? 'places kept' : 'numbers kept'}
      </Word>
    </>
  );
}

const groupPlaces: { value: PlanOf<'group'>['at']; word: string; means: string }[] = [
  { value: 'middle', word: 'the middle of the bounds', means: 'of all that goes into it' },
  { value: 'base', word: 'the middle of the base', means: 'of all that goes into it' },
  { value: 'zero', word: 'world zero', means: '' },
  { value: 'lead', word: "the lead's pivot", means: 'of what was picked last' },
];

function GroupWords({ plan }: { plan: PlanOf<'group'> }) {
  return (
    <>
      <span>Group</span>
      <Picked />
      <span>as</span>
      <input
        className="field w-36 text-left font-sans"
        aria-label="Name of the group"
        value={plan.name}
        maxLength={session.core.limits.name}
        autoFocus
        onFocus={(e) => e.target.select()}
        onChange={(e) => changePlan({ name: e.target.value })}
        onKeyDown={keepOrLeave}
      />
      <span className="flex items-center gap-2 whitespace-nowrap">
        <span>with its pivot at</span>
        <Word
          label="Pivot of the group"
          chosen={plan.at}
          choices={() => groupPlaces}
          choose={(at) => changePlan({ at })}
        >
          {groupPlaces.find((p) => p.value === plan.at)!.word}
        </Word>
      </span>
    </>
  );
}

function MoreWords({ plan }: { plan: PlanOf<'more'> }) {
  return (
    <>
      <span>Make</span>
      <Count label="How many more" value={plan.count} change={(count) => changePlan({ count })} />
      <span>more of</span>
      <Picked />
      <span>at the same step</span>
    </>
  );
}

const addPlaces: { value: AddWhere; word: string; means: string }[] = [
  { value: 'inside', word: 'inside', means: 'it rides on it' },
  { value: 'beside', word: 'beside', means: 'right after it in the tree, on the same parent' },
  { value: 'around', word: 'around', means: 'it takes its place in the tree and carries it; nothing moves' },
];

function AddWords({ plan }: { plan: PlanOf<'add'> }) {
  const many = useStore((s) => s.selection.length > 1);
  const mark = useStore((s) => s.byId.get(s.currentMark ?? '')?.name);
  return (
    <>
      <span>{/^[AEIOU]/.test(plan.node.name) ? 'Add an' : 'Add a'}</span>
      <Word
        label="What is added"
        chosen={plan.node.name}
        choices={() => additions.map(({ says, node }) => ({ value: node.name, word: says }))}
        choose={(name) => changePlan({ node: sized(additions.find((a) => a.node.name === name)!.node) })}
      >
        {plan.node.name}
      </Word>
      {plan.node.shape && (
        <ShapeWords shape={plan.node.shape} change={(shape) => changePlan({ node: { ...plan.node, shape } })} />
      )}
      {plan.where !== null && (
        <>
          <Word label="Where it goes" chosen={plan.where} choices={() => addPlaces} choose={addTo}>
            {plan.where}
          </Word>
          {many && <span>each of</span>}
          <Picked />
        </>
      )}
      {plan.where !== 'around' &&
        (plan.at ? (
          <button
            type="button"
            className="word"
            title="Let it stand where there is room"
            onClick={() => changePlan({ at: null })}
          >
            at the pressed point
          </button>
        ) : (
          mark !== undefined && <span>at the mark {middleCut(mark, 24)}</span>
        ))}
    </>
  );
}

function CollectWords({ plan }: { plan: PlanOf<'collect'> }) {
  const collections = useStore((s) => s.collections);
  const name = collections.find((c) => c.id === plan.collection)?.name ?? 'a new collection';
  return (
    <>
      <span>{plan.member ? 'Put' : 'Take'}</span>
      <Picked />
      <Word
        label="Into or out of"
        chosen={plan.member ? 'in' : 'out'}
        choices={() => [
          { value: 'in', word: 'into', means: '' },
          { value: 'out', word: 'out of', means: '' },
        ]}
        choose={(way) => changePlan({ member: way === 'in' })}
      >
        {plan.member ? 'into' : 'out of'}
      </Word>
      <Word
        label="Which collection"
        chosen={plan.collection ?? ''}
        choices={() => [
          ...collections.map((c) => ({ value: c.id, word: middleCut(c.name, 32), means: c.smart ? 'has a rule' : '' })),
          { value: '', word: 'a new collection', means: '' },
        ]}
        choose={(id) => changePlan(id === '' ? { collection: null, member: true } : { collection: id })}
      >
        {middleCut(name, 32)}
      </Word>
    </>
  );
}

function RemoveWords({ plan }: { plan: PlanOf<'remove'> }) {
  const below = useStore((s) => s.selection.some((id) => (s.children.get(id) ?? []).length > 0));
  return (
    <>
      <span>Remove</span>
      <Picked />
      {below && (
        <Word
          label="What becomes of the children"
          chosen={plan.children}
          choices={() => [
            { value: 'with', word: 'with all that rides along', means: '' },
            { value: 'lift', word: 'and lift the children', means: 'they stay where they are' },
          ]}
          choose={(children) => changePlan({ children })}
        >
          {plan.children === 'with' ? 'with all that rides along' : 'and lift the children'}
        </Word>
      )}
    </>
  );
}
