import { isRefusal } from '../../core/answers';
import { ask, changePlan } from '../../acts/planning';
import { editsOf } from '../../acts/plans';
import { type PlanOf } from '../../state/plan';
import { session } from '../../acts/session';
import { WholeNumber } from '../../controls/WholeNumber';
import { useStore } from '../../state/store';
import { keepOrLeave, Picked } from './PlanParts';

type Text = 'name' | 'find' | 'replace' | 'prefix' | 'suffix' | 'from';

const fields: { field: Text; label: string; wide: string }[] = [
  { field: 'name', label: 'New name', wide: 'w-28' },
  { field: 'find', label: 'Find', wide: 'w-20' },
  { field: 'replace', label: 'Replace by', wide: 'w-20' },
  { field: 'prefix', label: 'Before', wide: 'w-16' },
  { field: 'suffix', label: 'Behind', wide: 'w-16' },
  { field: 'from', label: 'Number from', wide: 'w-12' },
];

/** A pattern for the names of the picked, with the first of them as they would become. */
export function RenameWords({ plan }: { plan: PlanOf<'rename'> }) {
  const selection = useStore((s) => s.selection);
  const byId = useStore((s) => s.byId);
  const [edit] = editsOf(plan, ask) ?? [];
  const names = edit ? session.core.namesAfter(edit, 4) : [];
  return (
    <>
      <span>Rename</span>
      <Picked />
      {fields.map(({ field, label, wide }) => (
        <label key={field} className="flex items-center gap-1 text-ink-2">
          {label}
          <input
            className={`field ${wide} text-left font-sans`}
            value={plan[field]}
            maxLength={field === 'from' ? 9 : 400}
            inputMode={field === 'from' ? 'numeric' : 'text'}
            onChange={(e) => changePlan({ [field]: e.target.value })}
            onKeyDown={keepOrLeave}
          />
        </label>
      ))}
      {plan.from !== '' && (
        <label className="flex items-center gap-1 text-ink-2">
          figures
          <WholeNumber
            className="field w-12"
            value={plan.digits}
            least={1}
            most={9}
            choose={(digits) => digits !== null && changePlan({ digits })}
            onKeyDown={keepOrLeave}
          />
        </label>
      )}
      <ul
        className="m-0 flex w-full list-none flex-wrap gap-x-4 p-0 text-[12px] text-ink-2"
        aria-label="Names as they would become"
      >
        {!isRefusal(names) &&
          names.map((name, i) => (
            <li key={selection[i]}>
              {byId.get(selection[i]!)?.name} → <b className="text-ink-1">{name}</b>
            </li>
          ))}
        {selection.length > 4 && <li>and {selection.length - 4} more</li>}
      </ul>
    </>
  );
}
