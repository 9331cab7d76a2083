import { memo } from 'react';
import type { NodeAnswer } from '../../core/answers';
import { session } from '../../acts/session';
import { get, useStore } from '../../state/store';
import { NumberField } from '../../controls/NumberField';
import { angle } from '../../controls/numbers';
import { sameLead } from '../../controls/sameLead';
import { Section } from '../../controls/Section';

const looks = [
  { how: 'asMade', word: 'As made' },
  { how: 'facets', word: 'Facets' },
  { how: 'smooth', word: 'Smooth' },
] as const;

/** Whether surfaces show in facets or smooth; acts on all that is picked. */
export const SurfacePanel = memo(SurfaceOf, (a, b) => sameLead(a.lead, b.lead, (n) => n.node.normals));

function SurfaceOf({ lead }: { lead: NodeAnswer }) {
  const many = useStore((s) => s.selection.length);
  const { shape, geometry, normals } = lead.node;
  if (!shape && !geometry) return null;
  const now = normals?.how ?? 'asMade';
  const keep = (how: 'asMade' | 'facets' | 'smooth', upTo?: number) =>
    session.keep({ do: 'setNormals', nodes: get().selection, how, ...(upTo === undefined ? {} : { angle: upTo }) });
  return (
    <Section title="Surface" remark={many > 1 ? `of all ${many}` : undefined}>
      <div className="flex items-center gap-1">
        <div role="radiogroup" aria-label="Surface" className="flex gap-1">
          {looks.map(({ how, word }) => (
            <button
              key={how}
              type="button"
              role="radio"
              aria-checked={how === now}
              className={`btn ${how === now ? 'border-plum bg-wash font-semibold text-plum' : ''}`}
              onClick={() => keep(how)}
            >
              {word}
            </button>
          ))}
        </div>
        {normals?.how === 'smooth' && (
          <NumberField
            label="Smooth up to"
            value={normals.angle}
            quantity="angle"
            shown={(v) => `${angle(v)}°`}
            keep={(v) => keep('smooth', v)}
          />
        )}
      </div>
    </Section>
  );
}
