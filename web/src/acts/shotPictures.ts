import { api } from '../api/client';
import { get, set } from '../state/store';
import { isHeld } from './doing';
import { loading } from './loader';
import { open } from './open';

/**
 * Pictures of shots, for their cards: made by the page when nothing else is to be done, stored with the revision that they show, and made
 * again when what the shot shows may have changed. Only those are made that somebody looks at.
 */

/** Twice as fine as a card is drawn. */
const height = 112;
const [narrowest, widest] = [40, 208];

/** Cards that are on the screen. */
const wanted = new Set<string>();
let resting: ReturnType<typeof setTimeout> | undefined;
let making = false;

/** A card asks for its picture, as long as it is on the screen. */
export function wantPicture(shot: string): () => void {
  wanted.add(shot);
  makeSoon();
  return () => void wanted.delete(shot);
}

/** How wide the picture of a shot is drawn, for its height. */
export function widthFor(aspect: number, high = height): number {
  return Math.round((Math.min(widest, Math.max(narrowest, aspect * height)) * high) / height);
}

function put(shot: string, url: string, version: number): void {
  const pictures = new Map(get().shotPictures);
  const before = pictures.get(shot);
  if (before?.url) URL.revokeObjectURL(before.url);
  pictures.set(shot, { url, version });
  set({ shotPictures: pictures });
}

/** Where drawing is slow, what is shown already is made again seldom: it takes an eighth of the time at most. */
const rests = 8;

/** How long the last one took, in milliseconds; before the first, which also prepares the shaders, so long that it disturbs nobody. */
let lately = 375;

/** Something wanted has no picture yet. */
function isMissing(): boolean {
  const { shots, shotPictures } = get();
  return shots.some((s) => wanted.has(s.id) && s.camera !== null && !shotPictures.has(s.id));
}

/** Makes what is wanted and older, one after the other, with a rest between. */
export function makeSoon(after = isMissing() ? 400 : Math.max(800, rests * lately)): void {
  clearTimeout(resting);
  resting = setTimeout(() => void makeNext(), after);
}

function isBusy(): boolean {
  const { trying, plan, drawing, shadows } = get();
  return trying || plan !== null || drawing !== null || shadows.length > 0 || isHeld() || document.hidden;
}

/** Those that were stored, and the revisions that they show; asked for once a scene. */
let stored: { scene: string; of: Promise<Map<string, number>> } | null = null;

async function storedRevision(scene: string, shot: string): Promise<number | undefined> {
  if (stored?.scene !== scene) {
    const of = api.shotPictures(scene).then((all) => new Map(all.map((p) => [p.shot, p.revision])));
    stored = { scene, of: of.catch(() => new Map<string, number>()) };
  }
  return (await stored.of).get(shot);
}

async function makeNext(): Promise<void> {
  const { scene, shots, shotPictures, shotVersions } = get();
  if (!scene || !open.picture || making) return;
  const next = shots.find(
    (s) => wanted.has(s.id) && s.camera !== null && shotPictures.get(s.id)?.version !== shotVersions.get(s.id),
  );
  if (!next) return;
  if (isBusy() || open.sync?.waiting !== 0) {
    makeSoon();
    return;
  }
  making = true;
  const version = shotVersions.get(next.id) ?? 0;
  try {
    const first = !shotPictures.has(next.id);
    const before = first ? await storedRevision(scene.id, next.id) : undefined;
    if (get().scene?.id !== scene.id) return;
    if (before !== undefined) {
      // What has happened since it was made is not known: only at the same revision it is as it should be.
      const url = URL.createObjectURL(await api.pictureOfShot(scene.id, next.id, before));
      put(next.id, url, before === open.core.revision() ? version : -1);
    } else {
      const revision = open.core.revision();
      const began = performance.now();
      const picture = await open.picture.throughShot(next.id, widthFor(next.aspect), height);
      lately = performance.now() - began;
      if (get().scene?.id !== scene.id) return;
      // Without a camera there is none; it is not asked for again until something changes.
      put(next.id, picture ? URL.createObjectURL(picture) : '', version);
      if (picture) void api.keepShotPicture(scene.id, next.id, revision, picture).catch(() => undefined);
    }
  } catch {
    put(next.id, '', version);
  } finally {
    making = false;
  }
  makeSoon(isMissing() ? 60 : Math.max(60, rests * lately));
}

loading.left = () => {
  for (const { url } of get().shotPictures.values()) if (url) URL.revokeObjectURL(url);
  stored = null;
  set({ shotPictures: new Map() });
};
