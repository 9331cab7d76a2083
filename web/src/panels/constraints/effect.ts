import { isRefusal, type Constraint } from '../../core/answers';
import { session } from '../../acts/session';
import { get, set } from '../../state/store';

/** While the pointer rests on a link, the stage shows the pose without it as a ghost beside the one with it; of one that is off, the pose with it. */
export function showEffect(node: string, entry: Constraint): void {
  const { trying, plan } = get();
  if (trying || plan) return;
  const foreseen = session.core.foresee([
    { do: 'setConstraint', of: [{ node, id: entry.id }], enabled: !entry.enabled },
  ]);
  if (isRefusal(foreseen)) return;
  set({ shadows: foreseen.ghosts.map((g) => ({ ...g, from: g.from ?? g.to })) });
  session.picture?.draw();
}

export function leaveEffect(): void {
  if (get().plan || get().shadows.length === 0) return;
  set({ shadows: [] });
  session.picture?.draw();
}
