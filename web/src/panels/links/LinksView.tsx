import { later } from '../../controls/later';
import { set, useStore } from '../../state/store';

const Diagram = later(() => import('./Diagram').then((m) => m.default), {
  leave: () => set({ open: null }),
  meanwhile: <p className="m-4 text-ink-2">Opening…</p>,
});

/** Who rides on whom, as a diagram over the stage; fetched when it is first opened. */
export function LinksView() {
  const open = useStore((s) => s.open === 'links');
  const foot = useStore((s) => s.foot);
  if (!open) return null;
  return (
    <section
      className="absolute top-3 right-4 left-4 z-30 flex flex-col rounded-xl border border-line bg-paper shadow-float"
      style={{ bottom: foot + 8 }}
      aria-label="Links"
      tabIndex={-1}
      onKeyDown={(e) => {
        if (e.key === 'Escape') set({ open: null });
      }}
    >
      <Diagram />
    </section>
  );
}
