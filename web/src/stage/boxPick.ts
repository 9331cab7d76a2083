import { session } from '../acts/session';
import { ownSettings } from '../state/ownSettings';
import { get } from '../state/store';
import type { Box } from './picking';
import { setPointer } from '../state/pointer';
import type { Stage } from './stage';
import type { View } from './view';

/** Up to this many objects, a box tells how many it would pick while it is drawn. */
const mostCounted = 3000;

/** A box drawn over a view: picks what it touches, or what it holds whole; Alt turns that round. */
export class BoxPick {
  private view: View | null = null;
  private from = { x: 0, y: 0 };
  private to = { x: 0, y: 0 };

  constructor(private readonly stage: Stage) {}

  draw(view: View, from: { x: number; y: number }, to: { x: number; y: number }, e: PointerEvent): void {
    const { rect } = view;
    const inside = {
      x: Math.max(rect.x, Math.min(rect.x + rect.width, to.x)),
      y: Math.max(rect.y, Math.min(rect.y + rect.height, to.y)),
    };
    [this.view, this.from, this.to] = [view, from, inside];
    const whole = this.whole(e);
    const count = get().rows.length <= mostCounted ? this.found(whole).length : null;
    setPointer({
      box: {
        x: Math.min(from.x, inside.x),
        y: Math.min(from.y, inside.y),
        width: Math.abs(inside.x - from.x),
        height: Math.abs(inside.y - from.y),
        whole,
        count,
      },
    });
  }

  done(e: PointerEvent): void {
    const { view } = this;
    const all = view ? this.found(this.whole(e)) : [];
    const solid = view !== null && !['wire', 'seeThrough'].includes(view.state().shading);
    const found = view && solid && ownSettings().boxSeen ? this.stage.seenOf(view, this.box(view), all) : all;
    this.leave();
    const { selection, keepSelection, adding } = get();
    if (keepSelection) {
      session.say({ kind: 'info', text: 'The selection is kept. K lets it change again.' });
      return;
    }
    if (e.ctrlKey || e.metaKey || adding) session.select([...selection.filter((id) => !found.includes(id)), ...found]);
    else session.select(found);
    const behind = all.length - found.length;
    if (behind > 0)
      session.say({
        kind: 'info',
        text: `Picked ${found.length}; ${behind} more ${behind === 1 ? 'lies' : 'lie'} behind what is seen.`,
        act: {
          word: 'Pick them, too',
          do: () => session.select([...get().selection, ...all.filter((id) => !get().selection.includes(id))]),
        },
      });
  }

  leave(): void {
    this.view = null;
    setPointer({ box: null });
  }

  private whole(e: PointerEvent): boolean {
    return ownSettings().boxWhole !== e.altKey;
  }

  private found(whole: boolean): string[] {
    return this.stage.inBox(this.view!, this.box(this.view!), whole);
  }

  private box({ rect }: View): Box {
    return {
      left: Math.min(this.from.x, this.to.x) - rect.x,
      right: Math.max(this.from.x, this.to.x) - rect.x,
      top: Math.min(this.from.y, this.to.y) - rect.y,
      bottom: Math.max(this.from.y, this.to.y) - rect.y,
    };
  }
}
