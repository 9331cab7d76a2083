import { enterShot, setNarrow, takeBack } from '../acts/shots';
import { useStore } from '../state/store';

/** The ways out where all that is picked has of its own, in the current shot, what the edit would change in every shot. */
export function CheatWays() {
  const cheated = useStore((s) => s.refused === 'cheated' && !s.trying && s.plan === null);
  const selection = useStore((s) => s.selection);
  if (!cheated) return null;
  return (
    <span className="flex shrink-0 gap-1" role="group" aria-label="Ways out of the shot's own">
      <button type="button" className="btn" title="In this shot only" onClick={() => setNarrow(true)}>
        Edit the cheat
      </button>
      <button type="button" className="btn" title="It follows the scene again" onClick={() => takeBack(selection)}>
        Take it back
      </button>
      <button type="button" className="btn" title="With no shot current" onClick={() => enterShot(null)}>
        Edit the scene’s
      </button>
    </span>
  );
}
