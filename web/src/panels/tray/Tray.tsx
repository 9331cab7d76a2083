import type { ReactNode } from 'react';

/** A drawer of the tray: cards of one kind of thing. */
export interface Drawer {
  id: string;
  word: string;
  cards: () => ReactNode;
}

/** Shots, materials, lamps and stills come here, each as a drawer; as long as there is none, the tray takes no room. */
const drawers: Drawer[] = [];

/** The tray at the foot of the stage's column. */
export function Tray() {
  const [first] = drawers;
  if (!first) return null;
  return (
    <section aria-label="Tray" className="h-[104px] shrink-0 border-t border-line bg-paper" data-tray>
      {first.cards()}
    </section>
  );
}
