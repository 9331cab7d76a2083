import { isRefusal, type Edit, type Kept, type Refusal } from '../core/answers';
import { get, set } from '../state/store';
import { foretell, refresh, showAll } from './following';
import { open, say } from './open';
import { pickQuietly, selections } from './selecting';
import { putBack } from './trial';
import { ownTrialEnds, unwatch } from './watching';

/** Edits are made here: at once in the page, then by the server, which is the truth. */

/** What keeping tells to what is prepared in the sentence, and the edits of the last own step. */
export const kept: {
  /** For doing the same to something else. */
  edits: Edit[];
  /** Offers more copies after one that was dragged off. */
  moreLikeIt: () => void;
} = { edits: [], moreLikeIt: () => undefined };

/** Makes edits as one step. */
export function keep(...edits: Edit[]): boolean {
  unwatch();
  if (get().trying) {
    open.core.putBack();
    set({ trying: false, reading: null });
  }
  return afterKeeping(open.core.keepEdits(edits));
}

/** Makes edits as one step and picks what it is about. */
export function keepAndPick(edits: Edit[], ids: string[]): boolean {
  const done = keep(...edits);
  if (done) pickQuietly(ids);
  return done;
}

/** Keeps what is tried, of the picked or of copies of them; while rehearsing, everything goes back. */
export function keepTrial(asCopy = false): void {
  if (!get().trying) return;
  if (get().rehearse) {
    const { reading } = get();
    putBack();
    say({
      kind: 'info',
      text: `Rehearsed ${reading?.amount ?? ''}: it is back where it was. Q ends rehearsing.`.replace('  ', ' '),
    });
    return;
  }
  const copies = asCopy ? open.core.tops(get().selection).map(() => crypto.randomUUID()) : null;
  const answer = copies ? open.core.keepTrialAsCopy(copies) : open.core.keepTrial();
  set({ trying: false, reading: null, caught: null });
  if (!afterKeeping(answer) || !copies) return;
  pickQuietly(copies);
  const { notice } = get();
  if (notice) say({ ...notice, act: { word: '… and more at the same step', do: () => kept.moreLikeIt() } });
}

function afterKeeping(answer: Kept | Refusal): boolean {
  ownTrialEnds(!isRefusal(answer) && !answer.empty);
  if (isRefusal(answer)) {
    say({ kind: 'refusal', text: answer.detail });
    showAll();
    return false;
  }
  if (answer.empty) {
    open.core.drop(answer.ticket);
    refresh({ worlds: true, outline: false, rows: [], looks: [] });
    return true;
  }
  selections.edited();
  kept.edits = answer.edits;
  set({ notice: { kind: 'info', text: `${answer.sentence}.` }, shadows: [] });
  refresh(answer.stale);
  open.sync?.send(answer);
  foretell();
  return true;
}
