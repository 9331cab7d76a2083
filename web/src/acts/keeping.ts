import { isRefusal, type Edit, type Kept, type Refusal } from '../core/answers';
import { get, set, type Notice } from '../state/store';
import { foretell, refresh, showAll } from './following';
import { open, say } from './open';
import { pickQuietly, selections } from './selecting';
import { putBack } from './trial';
import { ownTrialEnds, unwatch } from './watching';
import { onRenewal } from '../state/renewal';

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
  again = () => void keep(...edits);
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

/** The way out of a refusal that the scope makes, told by who knows shots. */
export const scopes: { wayOut: (refusal: string, again: () => void) => Notice['act'] | null } = { wayOut: () => null };

/** The same edits once more. */
let again: () => void = () => undefined;

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

/** What was done; where other shots keep their own, with the way to carry them along. */
function saidOf({ sentence, carry }: Kept): Notice {
  if (!carry) return { kind: 'info', text: `${sentence}.` };
  const { shots, edit } = carry;
  const several = shots.includes(' and ') || /^\d+ shots$/.test(shots);
  return {
    kind: 'info',
    text: `${sentence}. ${shots} ${several ? 'keep' : 'keeps'} ${several ? 'their' : 'its'} own.`,
    act: { word: several ? 'Carry them along' : 'Carry it along', do: () => void keep(edit as Edit) },
  };
}

function afterKeeping(answer: Kept | Refusal): boolean {
  ownTrialEnds(!isRefusal(answer) && !answer.empty);
  if (isRefusal(answer)) {
    const act = scopes.wayOut(answer.refusal, again);
    say({ kind: 'refusal', text: answer.detail, ...(act ? { act } : {}) });
    showAll();
    return false;
  }
  if (answer.empty) {
    open.core.drop(answer.ticket);
    say({ kind: 'info', text: answer.sentence });
    refresh({ worlds: true, outline: false, rows: [], looks: [], shots: false, materials: false });
    return true;
  }
  selections.edited();
  kept.edits = answer.edits;
  set({ notice: saidOf(answer), shadows: [] });
  refresh(answer.stale);
  open.sync?.send(answer);
  foretell();
  return true;
}

onRenewal(() => {
  kept.edits = [];
  again = () => undefined;
});
