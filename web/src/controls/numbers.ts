import { session } from '../acts/session';
import { ownSettings } from '../state/ownSettings';

/** Numbers as the panels show them: the person's decimals, so that a field never changes its width. */
export function length(value: number, unit: string): string {
  const { lengths } = ownSettings().numbers;
  // Smaller units need fewer decimals to tell the same.
  return fixed(
    value / (session.core.limits.units[unit] ?? 1),
    Math.max(0, lengths - (unit === 'mm' ? 2 : unit === 'cm' ? 1 : 0)),
  );
}

export function angle(value: number): string {
  return fixed(value, ownSettings().numbers.angles);
}

export function factor(value: number): string {
  return fixed(value, ownSettings().numbers.lengths);
}

function fixed(value: number, decimals: number): string {
  const text = value.toFixed(decimals);
  if (Number(text) === 0) return value !== 0 && Math.abs(value) > 1e-12 ? value.toPrecision(2) : (0).toFixed(decimals);
  return Math.abs(value) >= 1e6 ? value.toPrecision(6) : text;
}
