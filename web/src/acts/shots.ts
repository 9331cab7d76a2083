import { isRefusal, type Edit } from '../core/answers';
import type { Within } from '../api/client';
import { currentShot } from '../state/shotsSlice';
import { get, set } from '../state/store';
import { foretell, scopeChanged } from './following';
import { keep } from './keeping';
import { open, say } from './open';
import { goOn } from './trial';

/** Which shot is arranged, and whether edits are made in it alone: a person's own, and nothing of it is stored. */

/** Arranges in a shot, or in none. Edits are made in every shot then, until it is said otherwise. Views that look through its camera go along. */
export function enterShot(id: string | null): void {
  const before = currentShot(get());
  scopeTo(id, false);
  const now = currentShot(get());
  if (before?.camera && now?.camera && now.id === id && before.camera !== now.camera)
    open.picture?.lookOn(before.camera, now.camera);
}

/** Makes edits in the current shot alone, or in every shot. */
export function setNarrow(narrow: boolean): void {
  const { shot } = get();
  if (shot === null) say({ kind: 'info', text: 'No shot is current. Press a card of the tray first.' });
  else scopeTo(shot, narrow);
}

/** Leaves out in the working view what the picture of the current shot leaves out, or not. */
export function setAsInShot(asInShot: boolean): void {
  const { shot, narrow } = get();
  scopeTo(shot, narrow, asInShot);
}

function scopeTo(shot: string | null, narrow: boolean, asInShot = get().asInShot): void {
  const answer = open.core.setScope(shot, narrow, asInShot);
  if (isRefusal(answer)) {
    say({ kind: 'refusal', text: answer.detail });
    return;
  }
  set({ shot, narrow, asInShot, notice: null });
  scopeChanged(answer.stale);
  goOn(answer.ongoing);
  foretell();
}

/** The next or the previous shot; before the first, and after the last, there is none. */
export function stepShot(by: 1 | -1): void {
  const { shots, shot } = get();
  const at = shots.findIndex((s) => s.id === shot);
  const next = at < 0 ? (by > 0 ? 0 : shots.length - 1) : at + by;
  enterShot(shots[next]?.id ?? null);
}

/** How a call beside the steps says where it is made. */
export function within(): Within {
  const { shot, narrow } = get();
  return shot === null ? {} : { shot, scope: narrow ? 'shot' : 'every' };
}

/** A camera that stands where the active view is. */
function cameraHere(id: string): Edit[] {
  const picture = open.picture!;
  return [
    { do: 'create', node: { id, name: 'Shot camera', kind: 'camera', camera: picture.lens() } },
    { do: 'steer', node: id, view: picture.viewWorld() },
  ];
}

/** Makes a shot of the present view: a camera that stands there, and the shot that is seen through it, as one step. */
export function shotFromView(): void {
  if (!open.picture) return;
  const [camera, id] = [crypto.randomUUID(), crypto.randomUUID()];
  const made = inEveryShot(() => keep(...cameraHere(camera), { do: 'shot', shot: { id, name: 'Shot', camera } }));
  if (made) enterShot(id);
}

/** Makes the present view that of a shot: its camera goes there, or a new one does. */
export function viewToShot(id: string): void {
  const shot = get().shots.find((s) => s.id === id);
  if (!open.picture || !shot) return;
  if (shot.camera !== null && shot.cameraNote === null) {
    keep({ do: 'steer', node: shot.camera, view: open.picture.viewWorld() });
    return;
  }
  const camera = crypto.randomUUID();
  inEveryShot(() => keep(...cameraHere(camera), { do: 'setShot', id, camera }));
}

/** Does something in every shot, also while edits are made in one alone. */
export function inEveryShot<T>(act: () => T): T {
  const { shot, narrow } = get();
  if (!narrow) return act();
  scopeTo(shot, false);
  const done = act();
  const { notice } = get();
  scopeTo(shot, true);
  say(notice);
  return done;
}

/** Takes back what things have of their own in the current shot; all of it where no channels are named. */
export function takeBack(nodes: string[] | null, channels?: string[]): boolean {
  const shot = currentShot(get());
  if (!shot) return false;
  return keep({
    do: 'takeBack',
    shot: shot.id,
    ...(nodes === null ? {} : { nodes }),
    ...(channels ? { channels } : {}),
  });
}

/** Makes what things have of their own in the current shot so in every shot. */
export function makeEverywhere(nodes: string[] | null, others: 'follow' | 'keep'): boolean {
  const shot = currentShot(get());
  if (!shot) return false;
  return keep({ do: 'everywhere', shot: shot.id, others, ...(nodes === null ? {} : { nodes }) });
}

/** Gives a shot a camera of its own, that stands where it has the one that it shares. */
export function ownCamera(shot: string): void {
  const id = crypto.randomUUID();
  const before = get().shots.find((s) => s.id === shot)?.camera ?? null;
  if (inEveryShot(() => keep({ do: 'ownCamera', shot, id })) && before !== null && get().shot === shot)
    open.picture?.lookOn(before, id);
}

/** Gives a shot another length, as it is typed; false: it is not understood. */
export function setLength(id: string, text: string): boolean {
  const answer = open.core.framesOf(text);
  if (isRefusal(answer)) {
    say({ kind: 'refusal', text: answer.detail });
    return false;
  }
  return keep({ do: 'setShot', id, frames: answer.frames });
}
