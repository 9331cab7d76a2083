import { isRefusal, type Edit } from '../core/answers';
import { get } from '../state/store';
import { showAll } from './following';
import { open } from './open';

/**
 * What others try is seen here while it goes on, as long as nothing is tried or prepared here; what is tried here is told to them. Only the
 * server's steps count: what is shown so goes as soon as one comes, when the other says that it has ended, or when nothing more is heard of it.
 */

/** Verbs that are shown: those that change what is there, at little cost. */
const verbs = new Set(
  'move rotate scale movePivot place set steer setConstraint setLight setCamera'.split(' ') as Edit['do'][],
);

/** How often others are told, and how long something is shown of which nothing more is heard; milliseconds. */
const often = 120;
const long = 3000;

/** Longer texts are not told. */
const mostText = 8000;

let shownOf: string | null = null;
let forgotten: ReturnType<typeof setTimeout> | undefined;
let own = false;
let told = 0;

/** Something is tried here: it takes the place of what others try, and they are told of it now and then. */
export function ownTrial(): void {
  drop();
  own = true;
  const now = performance.now();
  if (now - told < often || !open.sync?.accompanied) return;
  const edits = open.core.triedEdits();
  if (!edits || !edits.every((e) => verbs.has(e.do))) return;
  const text = JSON.stringify(edits);
  if (text.length > mostText) return;
  told = now;
  const { shot, narrow } = get();
  open.sync.tellTrying(shot === null ? text : JSON.stringify({ edits, shot, narrow }));
}

/** It is put back, or kept: then others see it where it is until the step itself comes. */
export function ownTrialEnds(kept = false): void {
  drop();
  own = false;
  if (told > 0 && !kept) open.sync?.tellTrying(null);
  told = 0;
}

/** What another page tries; nothing: it has ended. */
export function watch(page: string, revision: number, text: string | null): void {
  if (text === null) {
    if (shownOf === page) unwatch();
    return;
  }
  const { trying, plan, drawing, shadows } = get();
  const busy = own || trying || plan !== null || drawing !== null || shadows.length > 0 || open.sync?.waiting !== 0;
  if (busy || (shownOf ?? page) !== page || revision !== open.core.revision()) return;
  const theirs = read(text);
  // What somebody tries in one shot alone is not seen in another.
  if (!theirs || (theirs.narrow && theirs.shot !== get().shot)) return;
  const within = theirs.shot === '' ? null : { shot: theirs.shot, narrow: theirs.narrow };
  if (isRefusal(open.core.tryEdits(theirs.edits, within))) return;
  shownOf = page;
  clearTimeout(forgotten);
  forgotten = setTimeout(unwatch, long);
  open.changes++;
  showAll();
}

/** Puts back what is shown of others. */
export function unwatch(): void {
  if (shownOf === null) return;
  drop();
  open.core.putBack();
  open.changes++;
  showAll();
}

/** What is shown of others makes room in the core by itself. */
function drop(): void {
  shownOf = null;
  clearTimeout(forgotten);
}

/** Others can say anything. */
function read(text: string): { edits: Edit[]; shot: string; narrow: boolean } | null {
  try {
    const said = JSON.parse(text) as Edit[] | { edits: Edit[]; shot: string; narrow: boolean };
    const { edits, shot, narrow } = Array.isArray(said) ? { edits: said, shot: '', narrow: false } : said;
    const known = Array.isArray(edits) && edits.length <= 8 && edits.every((e) => verbs.has(e.do));
    return known && typeof shot === 'string' ? { edits, shot, narrow: narrow === true } : null;
  } catch {
    return null;
  }
}
