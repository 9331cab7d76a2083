import type { KeyboardEvent } from 'react';
import { keepPlan, leavePlan } from '../../acts/planning';
import { middleCut } from '../../controls/middleCut';
import { WholeNumber } from '../../controls/WholeNumber';
import { useStore } from '../../state/store';

/** What is picked, as the sentence names it. */
export function Picked() {
  return <Named ids={useStore((s) => s.selection)} />;
}

/** One by its name as it is now, several by their number. */
export function Named({ ids }: { ids: string[] }) {
  const name = useStore((s) => s.byId.get(ids[0] ?? '')?.name ?? '');
  return <b className="font-semibold">{ids.length === 1 ? middleCut(name, 32) : `${ids.length} objects`}</b>;
}

/** Fields of a plan: Enter makes it, Esc leaves it. */
export function keepOrLeave(e: KeyboardEvent): void {
  if (e.key === 'Enter') keepPlan();
  else if (e.key === 'Escape') leavePlan();
  else return;
  e.preventDefault();
  e.stopPropagation();
}

export function Count({ label, value, change }: { label: string; value: number; change: (value: number) => void }) {
  return (
    <WholeNumber
      className="field w-16"
      label={label}
      value={value}
      least={1}
      most={100_000}
      choose={(count) => count !== null && change(count)}
      onKeyDown={keepOrLeave}
    />
  );
}
