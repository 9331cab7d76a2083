import { leave } from '../acts/doing';
import { showStep } from '../acts/history';
import { leavePlan } from '../acts/planning';
import { session } from '../acts/session';
import type { Stage } from '../stage/stage';
import { overScene } from '../state/pageSlice';
import { get, set } from '../state/store';

/**
 * What Esc leaves, always in this order, one thing a press: what is held (a drag), what is prepared in the sentence, the
 * picking, what is only shown (an arrangement that is tried), what was typed, the step that is looked at, what lies over the
 * stage. Fields, menus and dialogs take their own Esc before.
 */
export function escape(stage: Stage): void {
  const { plan, picking } = get();
  if (leave(true)) stage.draw();
  else if (plan) leavePlan();
  else if (picking) set({ picking: null });
  else if (leave(false)) stage.draw();
  else if (get().trying) session.putBack();
  else if (get().shadows.length > 0 && get().open !== 'compare') void showStep(null);
  else if (get().open === 'scenes' || overScene.has(get().open)) set({ open: null, asked: null });
  session.say(null);
}
