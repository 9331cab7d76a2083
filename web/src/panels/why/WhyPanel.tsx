import { useEffect, useMemo, useRef, type ReactNode } from 'react';
import type { NodeAnswer, Placement } from '../../core/answers';
import { whileDragged } from '../../acts/dragging';
import { Name } from '../../controls/Name';
import { session } from '../../acts/session';
import { useStore } from '../../state/store';
import { above } from '../../state/branches';
import { angle, length } from '../../controls/numbers';
import { Section } from '../../controls/Section';
import { ChainActs, Entries } from '../constraints/ConstraintsPanel';
import { LinkFigures } from '../constraints/LinkFigures';

/** Why it is here: the chain from the world to the lead, what each carrier and each constraint adds, and where that leads. */
export function WhyPanel({ lead }: { lead: NodeAnswer }) {
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  const byId = useStore((s) => s.byId);
  const trying = useStore((s) => s.trying);
  const revision = session.core.revision();
  const id = lead.node.id;
  const links = [id, ...above({ byId }, id)].toReversed();
  const carriers = links.slice(0, -1).join();
  // What carries it stays while it is dragged.
  const carried = useMemo(
    () => new Map(carriers.split(',').map((c) => [c, session.core.node(c)?.node])),
    [carriers, revision, trying],
  );
  const own = lead.node.constraints?.length ?? 0;
  const count = links.length + own + [...carried.values()].reduce((sum, n) => sum + (n?.constraints?.length ?? 0), 0);
  return (
    <Section title="Why it is here" remark={`${count} ${count === 1 ? 'link' : 'links'}`}>
      <ol className="chain m-0 list-none p-0" aria-label="Chain">
        <Knot>
          <span className="text-ink-2">World</span>
        </Knot>
        {links.map((at) => {
          const self = at === id;
          const node = self ? lead.node : carried.get(at);
          const ties = self ? [] : session.core.linksOf(at);
          return (
            <Knot key={at} chosen={self}>
              <button
                type="button"
                className={`flex max-w-[60%] min-w-0 rounded text-left hover:text-plum ${self ? 'font-semibold' : ''}`}
                onClick={() => session.select([at])}
              >
                <Name text={byId.get(at)?.name ?? ''} />
              </button>
              <span className="ml-auto min-w-0 shrink text-right font-mono text-[11px] text-ink-2">
                {node && (self ? <Adds placement={node.placement} unit={unit} /> : adds(node.placement, unit))}
              </span>
              {ties.map((tie) => (
                <span key={tie.id} className="flex basis-full items-center gap-2 pl-[18px]">
                  <button
                    type="button"
                    className="min-w-0 truncate rounded text-left text-ink-2 hover:text-plum"
                    title={`${tie.title}: pick ${byId.get(at)?.name ?? 'it'} to change it`}
                    onClick={() => session.select([at])}
                  >
                    {tie.title}
                  </button>
                  <LinkFigures node={at} reading={tie} />
                </span>
              ))}
            </Knot>
          );
        })}
      </ol>
      {lead.node.kind !== 'mark' && (
        <>
          <div className="chain">
            <Entries lead={lead} />
          </div>
          {own > 0 && <Stands pivot={lead.pivotInWorld} unit={unit} />}
          <ChainActs lead={lead} />
        </>
      )}
    </Section>
  );
}

function Knot({ chosen = false, children }: { chosen?: boolean; children: ReactNode }) {
  return (
    <li className="flex flex-wrap items-center gap-x-2 py-0.5">
      <span
        aria-hidden
        className={`relative z-10 h-2.5 w-2.5 shrink-0 rounded-full border-2 ${chosen ? 'border-plum bg-plum' : 'border-ink-2 bg-paper'}`}
      />
      {children}
    </li>
  );
}

/** What the lead's own placement adds; while it is dragged, written at every picture. */
function Adds({ placement, unit }: { placement: Placement; unit: string }) {
  const line = useRef<HTMLSpanElement>(null);
  useEffect(
    () =>
      whileDragged((tried) => {
        const now = tried?.lead && { ...placement, ...tried.lead.placement };
        if (now && line.current?.firstChild) line.current.firstChild.nodeValue = adds(now, unit);
      }),
    [unit, placement],
  );
  return <span ref={line}>{adds(placement, unit)}</span>;
}

/** Where the chain leads. */
function Stands({ pivot, unit }: { pivot: readonly number[]; unit: string }) {
  return (
    <p className="m-0 mt-0.5 flex items-center gap-2 text-ink-2" aria-label="Where it stands">
      <span aria-hidden className="h-2 w-2 rotate-45 border-2 border-ink-2" />
      stands at
      <span className="ml-auto font-mono text-[11px]">{pivot.map((v) => short(v, unit)).join('  ')}</span>
    </p>
  );
}

const short = (v: number, unit: string) => length(v, unit).replace(/(\.\d\d)\d*$/, '$1');

/** What one link adds, in few figures. */
function adds({ position, rotation, scale, order }: Placement, unit: string): string {
  const parts: string[] = [];
  position.forEach((v, i) => {
    if (Math.abs(v) > 1e-9) parts.push(`${'XYZ'[i]} ${short(v, unit)}`);
  });
  const turned = [0, 1, 2].filter((i) => Math.abs(rotation[i]!) > 1e-9);
  if (turned.length === 1) parts.push(`turn ${'XYZ'[turned[0]!]} ${Number(angle(rotation[turned[0]!]!))}°`);
  else if (turned.length > 1) parts.push(`turned ${order}`);
  if (scale.some((v) => Math.abs(v - 1) > 1e-9)) parts.push('scaled');
  return parts.join('  ') || 'as it is';
}
