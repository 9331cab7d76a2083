import { lazy, Suspense } from 'react';
import { set, useStore } from '../../state/store';

const Diagram = lazy(() => import('./Diagram'));

/** Who rides on whom, as a diagram over the stage; fetched when it is first opened. */
export function LinksView() {
  const open = useStore((s) => s.open === 'links');
  if (!open) return null;
  return (
    <section
      className="fixed top-14 right-[292px] bottom-4 left-[260px] z-30 flex flex-col rounded-xl border border-line bg-paper shadow-float"
      aria-label="Links"
      tabIndex={-1}
      onKeyDown={(e) => {
        if (e.key === 'Escape') set({ open: null });
      }}
    >
      <Suspense fallback={<p className="m-4 text-ink-2">Opening…</p>}>
        <Diagram />
      </Suspense>
    </section>
  );
}
