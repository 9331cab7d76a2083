import { useId, type ReactNode } from 'react';

/** A part of the right-hand panel: a title, a remark beside it, and what belongs to it. */
export function Section({ title, remark, children }: { title: string; remark?: ReactNode; children: ReactNode }) {
  const id = useId();
  return (
    <section aria-labelledby={id} className="border-b border-line px-3.5 py-3 last:border-b-0">
      <header className="mb-2 flex items-baseline justify-between gap-2">
        <h2 id={id} className="panel-title">
          {title}
        </h2>
        <span className="text-right text-ink-2">{remark}</span>
      </header>
      {children}
    </section>
  );
}
