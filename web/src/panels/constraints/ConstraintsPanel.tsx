import { DropdownMenu } from 'radix-ui';
import { useEffect, useState } from 'react';
import { isRefusal, type Constraint, type Edit, type NodeAnswer } from '../../core/answers';
import { session } from '../../acts/session';
import { floating } from '../../controls/floating';
import { MenuItem } from '../../controls/MenuItem';
import { Section } from '../../controls/Section';
import { useStore } from '../../state/store';
import { EntryRow } from './EntryRow';
import { kinds, type Kind } from './kinds';
import { TargetField } from './TargetField';

/** The constraints of the lead, entry by entry; what is added goes to all that is picked. */
export function ConstraintsPanel({ lead }: { lead: NodeAnswer }) {
  const id = lead.node.id;
  const [adding, setAdding] = useState<{ kind: Kind; before: readonly Constraint[] } | null>(null);
  useEffect(() => setAdding(null), [id]);
  // One that is only tried does not stand in the list yet.
  const entries = adding?.before ?? lead.node.constraints ?? [];
  const readings = entries.length > 0 ? session.core.linksOf(id) : [];
  return (
    <Section
      title="Constraints"
      remark={entries.length === 0 ? 'none' : `${entries.length} ${entries.length === 1 ? 'entry' : 'entries'}`}
    >
      {entries.length > 0 && (
        <ol className="m-0 mb-2 list-none p-0" aria-label="Constraints">
          {entries.map((entry, at) => (
            <EntryRow
              key={entry.id}
              node={id}
              entry={entry}
              reading={readings.find((r) => r.id === entry.id)}
              at={at}
              count={entries.length}
            />
          ))}
        </ol>
      )}
      {adding ? (
        <Adding kind={adding.kind} end={() => setAdding(null)} />
      ) : (
        <div className="flex flex-wrap gap-1">
          <DropdownMenu.Root modal={false}>
            <DropdownMenu.Trigger className="btn">Add a constraint…</DropdownMenu.Trigger>
            <DropdownMenu.Portal container={floating()}>
              <DropdownMenu.Content className="menu" align="start" collisionPadding={8}>
                {kinds.map((kind) => (
                  <DropdownMenu.Item
                    key={kind.kind}
                    className="menu-item"
                    title={kind.means}
                    onSelect={() => setTimeout(() => setAdding({ kind, before: entries }))}
                  >
                    {kind.word}
                    {kind.looks ? ' …' : ''}
                  </DropdownMenu.Item>
                ))}
              </DropdownMenu.Content>
            </DropdownMenu.Portal>
          </DropdownMenu.Root>
          {entries.length > 0 && (
            <DropdownMenu.Root modal={false}>
              <DropdownMenu.Trigger className="btn">All of them…</DropdownMenu.Trigger>
              <DropdownMenu.Portal container={floating()}>
                <DropdownMenu.Content className="menu" align="start" collisionPadding={8}>
                  <MenuItem word="Bake" act={() => session.keep({ do: 'bake', nodes: [id] })} />
                  <MenuItem word="Bake, left off" act={() => session.keep({ do: 'bake', nodes: [id], off: true })} />
                  <MenuItem
                    word="Switch off"
                    off={entries.every((e) => !e.enabled)}
                    act={() => switchAll(id, entries, false)}
                  />
                  <MenuItem
                    word="Switch on"
                    off={entries.every((e) => e.enabled)}
                    act={() => switchAll(id, entries, true)}
                  />
                  <MenuItem word="Take off" act={() => session.keep({ do: 'unconstrain', of: [{ node: id }] })} />
                </DropdownMenu.Content>
              </DropdownMenu.Portal>
            </DropdownMenu.Root>
          )}
        </div>
      )}
    </Section>
  );
}

function switchAll(node: string, entries: readonly { id: string }[], enabled: boolean): void {
  session.keep({ do: 'setConstraint', of: entries.map((e) => ({ node, id: e.id })), enabled });
}

/** One that is being added: what it looks at, and what it would do, said and shown before it is kept. */
function Adding({ kind, end }: { kind: Kind; end: () => void }) {
  const selection = useStore((s) => s.selection);
  const [target, setTarget] = useState<string | null>(null);
  const [of, setOf] = useState('position');
  const edit: Edit | null =
    kind.looks && target === null
      ? null
      : {
          do: 'constrain',
          nodes: selection,
          constraint: { kind: kind.kind, ...(kind.looks ? { target: target! } : { of }) },
        };
  const shown = edit && JSON.stringify(edit);
  const [said, setSaid] = useState<string | null>(null);
  const [refused, setRefused] = useState(false);
  useEffect(() => {
    if (shown === null) return;
    const one = JSON.parse(shown) as Edit;
    const foreseen = session.core.foresee([one]);
    setRefused(isRefusal(foreseen));
    setSaid(isRefusal(foreseen) ? foreseen.detail : foreseen.foretold);
    if (isRefusal(foreseen)) return;
    session.preview([one]);
    return () => void session.preview([]);
  }, [shown]);
  return (
    <div
      className="rounded-md border border-line p-2"
      role="group"
      aria-label={`Add: ${kind.word}`}
      onKeyDown={(e) => {
        if (e.key !== 'Escape') return;
        e.stopPropagation();
        end();
      }}
    >
      <div className="flex items-center gap-2">
        <span className="shrink-0 font-semibold">{kind.word}</span>
        {kind.looks ? (
          <TargetField label="Target" value={target} without={selection} choose={setTarget} />
        ) : (
          <select className="field" aria-label="What is limited" value={of} onChange={(e) => setOf(e.target.value)}>
            <option value="position">its position</option>
            <option value="rotation">its rotation</option>
            <option value="scale">its scale</option>
          </select>
        )}
      </div>
      <p className={`m-0 my-1.5 ${refused ? 'text-refusal' : 'text-ink-2'}`} role="status">
        {edit === null ? 'Choose what it looks at.' : (said ?? 'Nothing moves.')}
      </p>
      <div className="flex gap-1">
        <button
          type="button"
          className="btn"
          disabled={edit === null || refused}
          onClick={() => {
            session.preview([]);
            if (edit && session.keep(edit)) end();
          }}
        >
          Add
        </button>
        <button type="button" className="btn" onClick={end}>
          Not now
        </button>
      </div>
    </div>
  );
}
