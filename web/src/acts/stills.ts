import { api, Refused } from '../api/client';
import type { Still } from '../wire/apiTypes';
import type { StillAs } from '../state/lightSlice';
import { currentShot } from '../state/shotsSlice';
import { get, set } from '../state/store';
import { fileName, hand, Pictures } from './handing';
import { guarded, open, say } from './open';

/** How a still is to be made, as it is kept with it: the same again is one press. */
export interface StillPlan extends Omit<StillAs, 'of' | 'width'> {
  /** The shot, the camera, or the view by its numbers. */
  shot: string | null;
  camera: string | null;
  view: { world: number[]; lens: object } | null;
  width: number;
  height: number;
  part: { x: number; y: number; width: number; height: number } | null;
  /** Of one that was made with its depth: the metres along the view that are white, and those that are black. */
  metres?: [number, number];
}

/** The stills of the scene, as the server keeps them. */
export async function listStills(): Promise<void> {
  const id = get().scene?.id;
  if (!id) return;
  await guarded(async () => {
    const stills = await api.stills(id);
    if (get().scene?.id === id) set({ stills });
  });
}

let listing: ReturnType<typeof setTimeout> | undefined;

/** The same, once for all that comes together: a still and what lies beside it are kept one after the other. */
export function listSoon(): void {
  clearTimeout(listing);
  listing = setTimeout(() => void listStills(), 250);
}

/** Of what a still would be. */
export function ofWhat(of = get().stillAs.of): 'shot' | 'camera' | 'view' {
  return of ?? (currentShot(get()) ? 'shot' : 'view');
}

/** The camera that a still would be made through; null: none. */
export function stillCamera(of = ofWhat()): string | null {
  const { byId, selection, views, active } = get();
  if (of === 'shot') return currentShot(get())?.camera ?? null;
  if (of === 'view') return null;
  const picked = selection.findLast((id) => byId.get(id)?.kind === 'camera');
  return picked ?? views[active]!.camera ?? [...byId.values()].find((row) => row.kind === 'camera')?.id ?? null;
}

/** Why no still can be made; null: one can. */
export function noStill(of = ofWhat()): string | null {
  if (get().making) return 'A still is being made. Wait for it, or stop it in the drawer of stills.';
  if (of === 'shot' && !currentShot(get()))
    return 'No shot is current. Choose one in the tray, or make a still of the view.';
  if (of === 'shot' && stillCamera('shot') === null) return 'This shot has no camera yet. Choose one for it first.';
  return of === 'camera' && stillCamera('camera') === null ? 'There is no camera. Add one in the tree first.' : null;
}

/** How large it is made, in pixels, and of what it is. */
export function stillPlan(as: StillAs = get().stillAs): StillPlan | null {
  const { stillPart, scene } = get();
  if (!scene || !open.picture) return null;
  const { of: wanted, width, ...how } = as;
  const of = ofWhat(wanted);
  const camera = stillCamera(of);
  const view = of === 'view' ? open.picture.viewAsCamera() : null;
  const seen = view ?? (camera === null ? null : open.core.cameraView(camera));
  if (!seen) return null;
  const { lens } = seen;
  const [across, high] = open.core.pictureSize(width ?? lens.width, lens.aspect);
  const part = stillPart && {
    x: Math.round(stillPart.x * across),
    y: Math.round(stillPart.y * high),
    width: Math.max(1, Math.round(stillPart.width * across)),
    height: Math.max(1, Math.round(stillPart.height * high)),
  };
  return {
    ...how,
    shot: of === 'shot' ? get().shot : null,
    camera: of === 'camera' ? camera : null,
    view,
    width: across,
    height: high,
    part,
  };
}

/** The still that is being made is told how to go on. */
let going: { stop: boolean; dropped: boolean } | null = null;

export function stopStill(keep: boolean): void {
  if (!going) return;
  if (keep) going.stop = true;
  else going.dropped = true;
  const { making } = get();
  if (making) set({ making: { ...making, stopping: true } });
}

/** Makes a still, keeps it, and tells which it is; null: none came of it. */
export async function makeStill(plan: StillPlan): Promise<string | null> {
  const { scene, shots, byId, making } = get();
  if (!scene || making || !open.picture) return null;
  const title = shots.find((s) => s.id === plan.shot)?.title ?? (plan.camera && byId.get(plan.camera)?.name) ?? 'View';
  const started = performance.now();
  const mine = {
    stop: false,
    dropped: false,
    get gone() {
      return mine.dropped || get().scene?.id !== scene.id;
    },
  };
  going = mine;
  const revision = open.core.revision();
  set({ making: { name: title, done: 0, all: plan.passes, left: null, stopping: false }, drawer: 'stills' });
  let kept: string | null = null;
  try {
    await guarded(async () => {
      const made = await open.picture!.still(plan, mine, (done, all) => {
        const gone = (performance.now() - started) / 1000;
        const { making: now } = get();
        if (now) set({ making: { ...now, done, all, left: done > 1 ? (gone / done) * (all - done) : null } });
      });
      if (get().scene?.id !== scene.id) return;
      if (!made) {
        if (!mine.gone)
          say({ kind: 'refusal', text: 'There is no camera any more to make it through. Choose another one.' });
        return;
      }
      const seconds = (performance.now() - started) / 1000;
      kept = await keep(scene.id, title, plan, made, revision, seconds);
      const without = kept === null ? [] : await keepBeside(scene.id, kept, plan, made);
      await listStills();
      if (kept !== null)
        say({
          kind: without.length > 0 ? 'refusal' : 'info',
          text: `Made a still of ${title}: ${made.width} × ${made.height} pixels, ${made.passes} ${made.passes === 1 ? 'pass' : 'passes'}, ${time(seconds)}.${without.map((w) => ` ${w}`).join('')}`,
          act: { word: 'Look at it', do: () => lookAt(kept!) },
        });
    });
  } finally {
    if (going === mine) going = null;
    set({ making: null });
  }
  return kept;
}

interface MadeFiles {
  picture: Blob;
  small: Blob | null;
  depth: Blob | null;
  metres: [number, number] | null;
  mask: Blob | null;
  width: number;
  height: number;
  passes: number;
}

/** Keeps a still on the server; where that has no room, it can still be taken as a file. */
async function keep(
  scene: string,
  name: string,
  plan: StillPlan,
  made: MadeFiles,
  revision: number,
  seconds: number,
): Promise<string | null> {
  const about = {
    name,
    revision,
    passes: made.passes,
    seconds,
    madeOf: JSON.stringify({ ...plan, metres: made.metres ?? undefined }),
  };
  try {
    // The shot may be gone by now: what was made of it is kept without.
    const shot = plan.shot !== null && get().shots.some((s) => s.id === plan.shot) ? plan.shot : null;
    return (await api.keepStill(scene, made.picture, { ...about, shot })).id;
  } catch (error) {
    const why = error instanceof Refused ? error.detail : 'The server could not keep it.';
    say({
      kind: 'refusal',
      text: `The still was made, but is not kept: ${why}`,
      act: { word: 'Download it', do: () => hand({ blob: made.picture, name: `${fileName(name, 'still')}.png` }) },
    });
    return null;
  }
}

/** Keeps what was asked for beside a still; tells what it is without, and why. */
async function keepBeside(scene: string, id: string, plan: StillPlan, made: MadeFiles): Promise<string[]> {
  const without: string[] = [];
  for (const part of ['small', 'depth', 'mask'] as const) {
    const image = made[part];
    const what = part === 'small' ? 'the picture of its card' : `its ${part}`;
    try {
      if (image) await api.addToStill(scene, id, part, image);
      else if (part !== 'small' && plan[part]) without.push(`Without ${what}: it could not be made into a file.`);
    } catch (error) {
      without.push(`Without ${what}: ${error instanceof Refused ? error.detail : 'the server could not keep it.'}`);
    }
  }
  return without;
}

/** Opens a still beside the one before it of the same shot, or before it at all. */
export function lookAt(id: string): void {
  set({ stillShown: { still: id, beside: before(id) }, open: 'still' });
}

/** The still that one is compared with. */
export function before(id: string): string | null {
  const { stills } = get();
  const at = stills.findIndex((s) => s.id === id);
  const earlier = stills.slice(0, Math.max(0, at));
  return (earlier.findLast((s) => s.shot === stills[at]?.shot) ?? earlier.at(-1))?.id ?? null;
}

/** The same again: of what is there now. */
export function again(still: Still): void {
  const plan = still.madeOf as unknown as StillPlan;
  if (typeof plan.width !== 'number' || typeof plan.height !== 'number') {
    say({ kind: 'info', text: 'How this still was made is not known. Make a new one.' });
    return;
  }
  if (plan.shot !== null && get().shots.every((s) => s.id !== plan.shot)) {
    say({ kind: 'refusal', text: 'Its shot is not in the scene any more. Make a still of another one.' });
    return;
  }
  void makeStill(plan);
}

export async function removeStill(id: string): Promise<void> {
  const { scene, stillShown } = get();
  if (!scene) return;
  await guarded(async () => {
    await api.removeStill(scene.id, id);
    if (stillShown && (stillShown.still === id || stillShown.beside === id)) set({ stillShown: null, open: null });
    await listStills();
  });
}

export function downloadStill(still: Still, part: 'picture' | 'depth' | 'mask' = 'picture'): void {
  const { scene } = get();
  if (!scene) return;
  void guarded(async () =>
    hand({
      blob: await api.stillImage(scene.id, still.id, part),
      name: `${fileName(still.name, 'still')}${part === 'picture' ? '' : ` ${part}`}.png`,
    }),
  );
}

/** The newest still of each shot in one file; where a shot has none, one is made first. */
export async function sendStills(): Promise<void> {
  const { scene, shots } = get();
  if (!scene) return;
  const pictures = await Pictures.begin();
  for (const shot of shots) {
    let still = get().stills.findLast((s) => s.shot === shot.id);
    if (!still && shot.cameraNote === null) {
      const seen = open.core.cameraView(shot.camera!);
      if (!seen) continue;
      const { of: _of, width: _width, ...how } = get().stillAs;
      const id = await makeStill({
        ...how,
        shot: shot.id,
        camera: null,
        view: null,
        width: seen.lens.width,
        height: seen.lens.pictureHeight,
        part: null,
      });
      still = get().stills.find((s) => s.id === id);
    }
    if (get().scene?.id !== scene.id) return;
    if (!still) continue;
    await guarded(async () => {
      await pictures.add(fileName(shot.title, 'still'), await api.stillImage(scene.id, still.id, 'picture'));
    });
  }
  if (pictures.isEmpty) {
    say({ kind: 'info', text: 'No shot has a camera that a still could be made through.' });
    return;
  }
  await pictures.hand(`${fileName(scene.name, 'scene')} stills`);
}

/** Of a picture of depths what its greys mean; null: it is not known. */
export function depthSays(still: Still): string | null {
  const { metres } = still.madeOf as unknown as Partial<StillPlan>;
  const figure = (m: number) => `${Number(m.toPrecision(4))} m`;
  return metres ? `white ${figure(metres[0])}, black ${figure(metres[1])}` : null;
}

/** Seconds in words. */
export function time(seconds: number): string {
  if (seconds < 10) return `${seconds.toFixed(1)} s`;
  return seconds < 90 ? `${Math.round(seconds)} s` : `${Math.round(seconds / 60)} min`;
}
