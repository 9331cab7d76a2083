import { useEffect, useState } from 'react';
import { begin } from '../../acts/doing';
import { Section } from '../../controls/Section';
import { AlignPart } from './AlignPart';
import { DropPart } from './DropPart';
import { MirrorPart } from './MirrorPart';
import { SpreadPart } from './SpreadPart';

/** Puts things in order: align, spread, drop, mirror. What is chosen shows on the stage before it is kept. */
export function ArrangePanel() {
  const [open, setOpen] = useState<'align' | 'spread' | 'drop' | 'mirror' | null>(null);
  // Esc closes what is shown and not kept, with what was chosen for it.
  useEffect(() => (open === null ? undefined : begin(() => setOpen(null), false)), [open]);
  const tabs = ['align', 'spread', 'drop', 'mirror'] as const;
  return (
    <Section title="Arrange" remark={open ? 'seen on the stage before it is kept' : undefined}>
      <div role="tablist" aria-label="Arrange" className="mb-2 flex flex-wrap gap-1">
        {tabs.map((tab) => (
          <button
            key={tab}
            type="button"
            role="tab"
            aria-selected={open === tab}
            className={`btn ${open === tab ? 'border-plum bg-wash font-semibold text-plum' : ''}`}
            onClick={() => setOpen(open === tab ? null : tab)}
          >
            {tab[0]!.toUpperCase() + tab.slice(1)}
          </button>
        ))}
      </div>
      {open === 'align' && <AlignPart />}
      {open === 'spread' && <SpreadPart />}
      {open === 'drop' && <DropPart />}
      {open === 'mirror' && <MirrorPart />}
    </Section>
  );
}
