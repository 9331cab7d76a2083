import { ChevronDown, ChevronRight } from 'lucide-react';
import { useId, type ReactNode } from 'react';
import { settingsOf } from '../state/settings';
import { session } from '../acts/session';
import { useStore } from '../state/store';

/** A part of the right-hand panel: a title that folds it, a remark beside it, and what belongs to it. */
export function Section({ title, remark, children }: { title: string; remark?: ReactNode; children: ReactNode }) {
  const id = useId();
  const folded = settingsOf(useStore((s) => s.settings)).folded;
  const open = folded[title] !== true;
  return (
    <section aria-labelledby={id} className="border-b border-line px-3.5 py-3 last:border-b-0">
      <header className={`flex items-baseline justify-between gap-2 ${open ? 'mb-2' : ''}`}>
        <h2 id={id} className="panel-title">
          <button
            type="button"
            className="-ml-1 flex items-center gap-0.5 rounded hover:text-plum"
            aria-expanded={open}
            title={open ? `Fold ${title}` : `Unfold ${title}`}
            onClick={() => session.saveSettings({ folded: { ...folded, [title]: open } })}
          >
            {open ? <ChevronDown size={12} aria-hidden /> : <ChevronRight size={12} aria-hidden />}
            {title}
          </button>
        </h2>
        <span className="text-right text-ink-2">{remark}</span>
      </header>
      {open && children}
    </section>
  );
}
