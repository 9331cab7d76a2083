import type { NodeAnswer } from '../../core/answers';
import { session } from '../../acts/session';
import { useStore } from '../../state/store';
import { colors } from '../../controls/colors';
import { Section } from '../../controls/Section';

/** A group's colour and note, and whether it is closed. */
export function GroupPanel({ lead }: { lead: NodeAnswer }) {
  const row = useStore((s) => s.byId.get(lead.node.id));
  const carries = useStore((s) => (s.children.get(lead.node.id) ?? []).length);
  if (lead.node.kind !== 'group' || !row) return null;
  const label = (change: object) => session.keep({ do: 'label', nodes: [row.id], ...change });
  return (
    <Section title="Group" remark={carries === 0 ? 'empty' : `${carries} in it`}>
      <div className="mb-2 flex flex-wrap items-center gap-1.5">
        <button
          type="button"
          role="switch"
          aria-checked={row.closed}
          className={`btn ${row.closed ? 'border-plum text-plum' : ''}`}
          title="Closed: a press on a member picks the group, a second press goes inside"
          onClick={() => label({ closed: !row.closed })}
        >
          {row.closed ? 'Closed' : 'Open'}
        </button>
        <span role="group" aria-label="Colour of the group" className="flex gap-1">
          {colors.map(({ color, word }) => (
            <button
              key={color}
              type="button"
              aria-label={word}
              title={word}
              aria-pressed={row.color === color}
              className={`h-6 w-6 rounded border ${row.color === color ? 'border-ink-1' : 'border-line'}`}
              style={{ background: color }}
              onClick={() => label({ color: row.color === color ? '' : color })}
            />
          ))}
        </span>
      </div>
      <textarea
        key={`${row.id} ${lead.node.label?.note ?? ''}`}
        className="field w-full resize-y text-left font-sans"
        rows={2}
        maxLength={session.core.limits.note}
        aria-label="Note of the group"
        placeholder="A note"
        defaultValue={lead.node.label?.note ?? ''}
        onKeyDown={(e) => e.stopPropagation()}
        onBlur={(e) => {
          if (e.target.value !== (lead.node.label?.note ?? '')) label({ note: e.target.value });
        }}
      />
    </Section>
  );
}
