import type { KeyboardEvent } from 'react';
import { keepPlan, leavePlan } from '../../acts/planning';
import { middleCut } from '../../controls/middleCut';
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
    <input
      type="number"
      className="field w-16"
      aria-label={label}
      min={1}
      max={100000}
      value={value}
      onFocus={(e) => e.target.select()}
      onChange={(e) => change(Math.max(1, Math.floor(Number(e.target.value) || 1)))}
      onKeyDown={keepOrLeave}
    />
  );
}
