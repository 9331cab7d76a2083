import { DropdownMenu } from 'radix-ui';
import { floating } from '../../controls/floating';
import { useMemo } from 'react';
import type { NodeAnswer, Reason } from '../../core/answers';
import { collect } from '../../acts/collecting';
import { isolate } from '../../acts/isolating';
import { session } from '../../acts/session';
import { currentShot } from '../../state/shotsSlice';
import { get, sightOf, useStore } from '../../state/store';
import { Section } from '../../controls/Section';

/** Why it is seen or hidden: every reason with the switch that would show it, and the collections it is in. */
export function SeenPanel({ lead }: { lead: NodeAnswer }) {
  const id = lead.node.id;
  const byId = useStore((s) => s.byId);
  const sight = useStore((s) => s.sight);
  const collections = useStore((s) => s.collections);
  const isolation = useStore((s) => s.isolation);
  const shot = useStore((s) => currentShot(s)?.title);
  const leftOut = useStore((s) => sightOf(s, s.byId.get(id)).leftOut);
  const why = useMemo(() => session.core.whySeen(id), [id, sight, byId]);
  if (!why) return null;
  const remark =
    leftOut && why.working
      ? 'not isolated'
      : why.working
        ? why.final
          ? 'in both'
          : `not in ${shot ?? 'the final picture'}`
        : 'hidden';
  const outside = collections.filter((c) => !why.collections.some((m) => m.id === c.id));
  return (
    <Section title="Why it is seen" remark={remark}>
      {why.reasons.length === 0 && !leftOut && <p className="m-0 text-ink-2">It is on, and all that carries it is.</p>}
      <ul className="m-0 list-none p-0" aria-label="Why it is hidden">
        {leftOut && isolation && (
          <li className="flex items-center gap-2 py-0.5">
            <span className="min-w-0 flex-1">{isolation.dim ? 'dimmed' : 'hidden'}: others are isolated</span>
            <button type="button" className="btn" onClick={() => isolate([...isolation.ids, id], isolation.withBranch)}>
              Show it too
            </button>
          </li>
        )}
        {why.reasons.map((reason) => (
          <li key={reason.text} className="py-0.5">
            <p className="m-0 mb-1">{reason.text}</p>
            <button
              type="button"
              className="btn"
              hidden={reason.switch === ''}
              title={`Switch ${byId.get(reason.switch)?.name} on`}
              onClick={() => switchOn(reason)}
            >
              Switch {reason.switch === id ? 'it' : short(byId.get(reason.switch)?.name ?? '')} on
            </button>
          </li>
        ))}
      </ul>
      {(why.collections.length > 0 || outside.length > 0) && (
        <div className="mt-2 flex flex-wrap items-center gap-1">
          {why.collections.map(({ id: collection, byRule }) => (
            <button
              key={collection}
              type="button"
              className="btn"
              title={byRule ? 'By its rule' : `Take it out of ${byId.get(collection)?.name}`}
              disabled={byRule}
              onClick={() => collect(collection, [id], false)}
            >
              <span
                aria-hidden
                className="h-2 w-2 rounded-[2px]"
                style={{ background: byId.get(collection)?.color ?? 'var(--edge)' }}
              />
              {byId.get(collection)?.name}
              {byRule ? ' · rule' : ' ×'}
            </button>
          ))}
          {outside.length > 0 && (
            <DropdownMenu.Root modal={false}>
              <DropdownMenu.Trigger className="btn">Put into…</DropdownMenu.Trigger>
              <DropdownMenu.Portal container={floating()}>
                <DropdownMenu.Content className="menu" align="start" collisionPadding={8}>
                  {outside.map((c) => (
                    <DropdownMenu.Item key={c.id} className="menu-item" onSelect={() => collect(c.id, [id], true)}>
                      {c.name}
                    </DropdownMenu.Item>
                  ))}
                </DropdownMenu.Content>
              </DropdownMenu.Portal>
            </DropdownMenu.Root>
          )}
        </div>
      )}
    </Section>
  );
}

/** Switches on what hides it: what is off in the current shot alone is as in the scene again, or on where it is off there, too. */
function switchOn(reason: Reason): void {
  const { shot, narrow, byId } = get();
  const row = byId.get(reason.switch);
  if (reason.final && shot !== null && (narrow || row?.ownInShot)) {
    const asInScene = !narrow && row?.final === true;
    session.keep({ do: 'seeIn', shots: [shot], of: [reason.switch], ...(asInScene ? {} : { on: true }) });
  } else session.keep({ do: 'see', nodes: [reason.switch], [reason.final ? 'final' : 'working']: true });
}

function short(name: string): string {
  return name.length > 14 ? `${name.slice(0, 12)}…` : name;
}
