import { isRefusal, type Stale } from '../core/answers';
import { get, set } from '../state/store';
import { template } from './edits';
import { fetchGeometry, takeMade } from './fetching';
import { guarded, open } from './open';
import { patchRows, readOutline } from './outlineRows';

/** The page follows the core: lists, pictures, the selection and the panels say what it says. */

/** Follows a change of the core. */
export function refresh(stale: Stale): void {
  open.changes++;
  const id = get().scene?.id;
  if (stale.outline || stale.rows.length > 0) {
    const rows = stale.outline ? open.core.outline() : open.core.outlineOf(stale.rows);
    if (stale.outline) readOutline(rows);
    else patchRows(rows);
    forgetGone();
    const missing = takeMade(rows);
    if (missing.length > 0 && id) {
      void guarded(() => fetchGeometry(id, missing)).then(() => open.picture?.rebuild());
    }
  }
  if (stale.materials) readMaterials();
  const sight = stale.outline || stale.rows.length > 0 || stale.looks.length > 0;
  if (sight) readSight();
  if (stale.looks.length > 0) open.picture?.looksChanged(stale.looks);
  if (sight) open.picture?.sightChanged();
  if (stale.shots || (stale.outline && get().shots.length > 0)) readShots();
  else if (get().shots.length > 0) readShotsSoon();
  showAll(stale.worlds);
}

/** The materials as they are. */
export function readMaterials(): void {
  const materials = open.core.materials();
  const there = new Set(materials.map((m) => m.id));
  const { balls } = get();
  const gone = [...balls.keys()].filter((id) => !there.has(id));
  set({ materials, ...(gone.length > 0 ? { balls: new Map([...balls].filter(([id]) => there.has(id))) } : {}) });
  open.picture?.materialsChanged(null);
}

/** Another shot is current, or edits are made elsewhere: only what it has of its own stands elsewhere, and what is seen is read anew. */
export function scopeChanged(stale: Stale): void {
  open.changes++;
  if (stale.worlds) open.picture?.worldsChanged(false);
  if (stale.rows.length > 0) patchRows(open.core.outlineOf(stale.rows));
  if (stale.looks.length > 0) open.picture?.looksChanged(stale.looks);
  sightRead();
  readLead();
}

/** What is seen is read anew, and drawn. */
export function sightRead(): void {
  readSight();
  open.picture?.sightChanged();
}

/** The shots as they are. One that is gone is not arranged in any more. */
export function readShots(): void {
  clearTimeout(shotsSoon);
  const { shots, versions, fps, firstFrame, total } = open.core.shots();
  const { shot, asInShot } = get();
  set({
    shots,
    shotVersions: new Map(shots.map((s, i) => [s.id, versions[i]!])),
    timing: { fps, firstFrame, total },
  });
  if (shot === null || shots.some((s) => s.id === shot)) return;
  const left = open.core.setScope(null, false, asInShot);
  set({ shot: null, narrow: false, cheats: [] });
  if (!isRefusal(left)) scopeChanged(left.stale);
}

let shotsSoon: ReturnType<typeof setTimeout> | undefined;

/** Only their pictures may be older than what they show: no drag waits for that. */
function readShotsSoon(): void {
  clearTimeout(shotsSoon);
  shotsSoon = setTimeout(readShots, 300);
}

/** More picked than this are not asked what they have of their own. */
const mostCheating = 500;

/** The stage draws where things stand now. */
export function showAll(worlds = true): void {
  if (worlds) open.picture?.worldsChanged(true);
  readLead();
  if (get().drawer === 'lamps' || get().open === 'surroundings') set({ lightTold: get().lightTold + 1 });
  open.picture?.draw();
}

/** What is gone is not picked any more. */
export function forgetGone(): void {
  const { selection, byId } = get();
  const present = selection.filter((id) => byId.has(id));
  if (present.length !== selection.length) set({ selection: present });
}

/** Reads what is seen, and in which colours where members show those of their collections. */
export function readSight(): void {
  const tints = get().settings.collectionColors ? open.core.collectionColors() : null;
  set({ sight: open.core.sight(), tints });
}

export function readLead(): void {
  const id = get().selection.at(-1);
  const { shot, selection } = get();
  const cheats = shot === null || id === undefined ? [] : open.core.cheatsOn(selection.slice(-mostCheating));
  set({ lead: id === undefined ? null : open.core.node(id), cheats });
}

/** Asks the core what the sentence would do besides what it says. */
export function foretell(): void {
  const t = template(viewWorld);
  if (!t) {
    set({ foretold: null, refused: null });
    return;
  }
  const frame = open.core.frame(t.edit, t.space, true);
  set({
    foretold: isRefusal(frame) ? frame.detail : frame.warning,
    refused: isRefusal(frame) ? frame.refusal : frame.refused,
  });
}

/** The world matrix of the active view; of none, that of the world. */
export function viewWorld(): number[] {
  return open.picture?.viewWorld() ?? [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
}

export function selectionChanged(): void {
  readLead();
  foretell();
  open.picture?.draw();
}
