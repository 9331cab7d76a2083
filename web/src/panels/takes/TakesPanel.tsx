import type { NodeAnswer } from '../../core/answers';
import { session } from '../../acts/session';
import { useStore } from '../../state/store';
import { Section } from '../../controls/Section';

const parts = ['position', 'rotation', 'scale'] as const;

/** What it takes of its parent. Switching keeps it where it stands in the world at that moment. */
export function TakesPanel({ lead }: { lead: NodeAnswer }) {
  const parent = useStore((s) => s.byId.get(lead.node.parent ?? '')?.name);
  const selection = useStore((s) => s.selection);
  if (!parent) return null;
  const takes = lead.node.placement.takes ?? { position: true, rotation: true, scale: true };
  const all = parts.every((part) => takes[part]);
  return (
    <Section title={`What it takes of ${parent}`} remark={all ? 'all of it' : 'a part'}>
      <div className="flex gap-1.5" role="group" aria-label="What it takes of its parent">
        {parts.map((part) => (
          <button
            key={part}
            type="button"
            role="switch"
            aria-checked={takes[part]}
            className={`btn ${takes[part] ? 'border-plum text-plum' : ''}`}
            title={`${takes[part] ? 'Takes' : 'Does not take'} its parent's ${part}; it stays where it is when this is switched`}
            onClick={() => session.keep({ do: 'setTakes', nodes: selection, takes: { [part]: !takes[part] } })}
          >
            {part}
          </button>
        ))}
      </div>
    </Section>
  );
}
