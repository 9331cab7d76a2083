import type { KeyboardEvent } from 'react';
import { keepPlan, leavePlan } from '../../acts/planning';
import { middleCut } from '../../controls/middleCut';
import { WholeNumber } from '../../controls/WholeNumber';
import { useStore } from '../../state/store';

/** What is picked, as the sentence names it. */
export function Picked() {
  const name = useStore((s) => s.byId.get(s.selection[0] ?? '')?.name ?? '');
  const many = useStore((s) => s.selection.length);
  return <b className="font-semibold">{many === 1 ? middleCut(name, 32) : `${many} objects`}</b>;
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
