import { useEffect, useMemo } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { session } from '../acts/session';
import { bake } from '../commands/linking';
import { set, useStore } from '../state/store';

/** The ways out where a constraint keeps the edit of the sentence from being seen: switch it off, bake it, move its target. */
export function WaysOut() {
  const { lead, verb, selection, trying, plan } = useStore(
    useShallow((s) => ({
      lead: s.lead,
      verb: s.verb,
      selection: s.selection,
      trying: s.trying,
      plan: s.plan !== null,
    })),
  );
  const tied = (lead?.node.constraints ?? []).some((c) => c.enabled && c.weight > 0);
  const held = useMemo(() => {
    const prepared = tied && !trying && !plan ? session.template() : null;
    return prepared === null
      ? null
      : (session.core.foretoldBy([prepared.edit]).held.find((h) => h.link !== null && h.node === lead?.node.id) ??
          null);
  }, [tied, trying, plan, verb, selection, lead]);
  const entry = lead?.node.constraints?.find((c) => c.id === held?.link);
  // The thread that holds it is lit, and stays so during the drag.
  useEffect(() => {
    if (!trying) set({ heldBy: held?.link ? { node: held.node, link: held.link } : null });
  }, [held, trying]);
  if (!held || !entry) return null;
  const of = [{ node: held.node, id: entry.id }];
  return (
    <span className="flex shrink-0 gap-1" role="group" aria-label="Ways out">
      <button type="button" className="btn" onClick={() => session.keep({ do: 'setConstraint', of, enabled: false })}>
        Switch it off
      </button>
      <button type="button" className="btn" onClick={() => bake(held.node, { upTo: entry.id })}>
        Bake it
      </button>
      {entry.target !== undefined && (
        <button type="button" className="btn" onClick={() => session.select([entry.target!])}>
          Pick its target
        </button>
      )}
    </span>
  );
}
