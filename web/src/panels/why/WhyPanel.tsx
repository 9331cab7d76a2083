import { useMemo } from 'react';
import type { NodeAnswer, Placement } from '../../core/answers';
import { Name } from '../../controls/Name';
import { session } from '../../acts/session';
import { useStore } from '../../state/store';
import { above } from '../../state/branches';
import { angle, length } from '../../controls/numbers';
import { Section } from '../../controls/Section';

/** Why it is here: what carries the lead, link by link, with what each link adds. */
export function WhyPanel({ lead }: { lead: NodeAnswer }) {
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  const byId = useStore((s) => s.byId);
  const trying = useStore((s) => s.trying);
  const revision = session.core.revision();
  const links = [lead.node.id, ...above({ byId }, lead.node.id)].toReversed();
  const carriers = links.slice(0, -1).join();
  // What carries it stays while it is dragged.
  const carried = useMemo(
    () => new Map(carriers.split(',').map((id) => [id, session.core.node(id)?.node.placement])),
    [carriers, revision, trying],
  );
  return (
    <Section title="Why it is here" remark={`${links.length} ${links.length === 1 ? 'link' : 'links'}`}>
      <ol className="m-0 list-none p-0">
        <li className="flex items-center gap-2 py-0.5 text-ink-2">
          <Dot /> World
        </li>
        {links.map((id) => {
          const self = id === lead.node.id;
          const placement = self ? lead.node.placement : carried.get(id);
          return (
            <li key={id} className="flex flex-wrap items-center gap-x-2 py-0.5">
              <Dot chosen={self} />
              <button
                type="button"
                className={`flex max-w-[85%] min-w-0 rounded text-left hover:text-plum ${self ? 'font-semibold' : ''}`}
                onClick={() => session.select([id])}
              >
                <Name text={byId.get(id)?.name ?? ''} />
              </button>
              <span className="ml-auto shrink-0 font-mono text-[11px] text-ink-2">
                {placement && adds(placement, unit)}
              </span>
            </li>
          );
        })}
      </ol>
    </Section>
  );
}

function Dot({ chosen = false }: { chosen?: boolean }) {
  return (
    <span
      aria-hidden
      className={`h-2.5 w-2.5 shrink-0 rounded-full border-2 ${chosen ? 'border-plum bg-plum' : 'border-ink-2'}`}
    />
  );
}

/** What one link adds, in few figures. */
function adds({ position, rotation, scale, order }: Placement, unit: string): string {
  const parts: string[] = [];
  position.forEach((v, i) => {
    if (Math.abs(v) > 1e-9) parts.push(`${'XYZ'[i]} ${length(v, unit).replace(/(\.\d\d)\d*$/, '$1')}`);
  });
  const turned = [0, 1, 2].filter((i) => Math.abs(rotation[i]!) > 1e-9);
  if (turned.length === 1) parts.push(`turn ${'XYZ'[turned[0]!]} ${Number(angle(rotation[turned[0]!]!))}°`);
  else if (turned.length > 1) parts.push(`turned ${order}`);
  if (scale.some((v) => Math.abs(v - 1) > 1e-9)) parts.push('scaled');
  return parts.join('  ') || 'as it is';
}
