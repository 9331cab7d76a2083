import { memo } from 'react';
import type { NodeAnswer, Shape } from '../../core/answers';
import { session } from '../../acts/session';
import { useStore } from '../../state/store';
import { NumberField } from '../../controls/NumberField';
import { length } from '../../controls/numbers';
import { sameLead } from '../../controls/sameLead';
import { Section } from '../../controls/Section';

const words: Record<string, string> = {
  radius: 'Radius',
  topRadius: 'Top radius',
  height: 'Height',
  tube: 'Tube',
  inner: 'Hole',
  segments: 'Segments',
  rings: 'Rings',
  sides: 'Sides',
  divisions: 'Divisions',
};

const counts = new Set(['segments', 'rings', 'sides', 'divisions']);

/** The parameters that a shape is made from. */
export const ShapePanel = memo(ShapeOf, (a, b) => sameLead(a.lead, b.lead, (n) => n.node.shape));

function ShapeOf({ lead }: { lead: NodeAnswer }) {
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  const shape = lead.node.shape;
  if (!shape) return null;
  const keep = (change: Partial<Shape>) => session.keep({ do: 'setShape', node: lead.node.id, shape: change });
  const single = Object.keys(words).filter((name) => shape[name as keyof Shape] !== undefined);
  return (
    <Section title="Shape" remark={shape.type}>
      {shape.size && (
        <div className="mb-1.5 grid grid-cols-[64px_1fr_1fr_1fr] items-center gap-1">
          <span className="text-ink-2">Size</span>
          {shape.size.map((value, i) => (
            <NumberField
              key={i}
              label={`Size ${shape.size!.length === 2 ? 'XZ'[i] : 'XYZ'[i]}`}
              value={value}
              quantity="length"
              shown={(v) => length(v, unit)}
              keep={(v) => keep({ size: shape.size!.map((s, j) => (j === i ? v : s)) })}
            />
          ))}
        </div>
      )}
      <div className="grid grid-cols-[64px_1fr_64px_1fr] items-center gap-1.5">
        {single.map((name) => (
          <label key={name} className="contents">
            <span className="text-ink-2">{words[name]}</span>
            <NumberField
              label={words[name]!}
              value={shape[name as keyof Shape] as number}
              quantity={counts.has(name) ? 'count' : 'length'}
              shown={(v) => (counts.has(name) ? String(v) : length(v, unit))}
              keep={(v) => keep({ [name]: v })}
            />
          </label>
        ))}
        {shape.caps !== undefined && (
          <>
            <span className="text-ink-2">Caps</span>
            <button
              type="button"
              className="btn justify-center"
              aria-pressed={shape.caps}
              onClick={() => keep({ caps: !shape.caps })}
            >
              {shape.caps ? 'Closed' : 'Open'}
            </button>
          </>
        )}
      </div>
    </Section>
  );
}
