import type { Zippable } from 'fflate';
import { api } from '../api/client';
import { get, set } from '../state/store';
import { hand } from './handing';
import { keep } from './keeping';
import { guarded, open, say } from './open';
import { inEveryShot } from './shots';

/** Lists of shots, and their pictures, out and in. */

/** Hands out the list of shots as a file. */
export function sendList(format: 'csv' | 'otio'): void {
  const { scene } = get();
  if (scene) void guarded(async () => hand(await api.shotList(scene.id, format)));
}

/** Asks for a file with a list of shots. */
export function askForList(): void {
  document.querySelector<HTMLInputElement>('[data-shot-list]')?.click();
}

/** Reads a list, and shows what it would make of the shots. */
export async function readList(file: File): Promise<void> {
  const { scene } = get();
  if (!scene) return;
  await guarded(async () => {
    const answer = await api.askShotList(scene.id, file);
    if (get().scene?.id === scene.id) set({ asked: { name: file.name, answer }, open: 'shotList' });
  });
}

/** Takes in the list that was read. */
export function takeList(): void {
  const { asked } = get();
  set({ asked: null, open: null });
  if (asked) inEveryShot(() => keep({ do: 'shotList', shots: asked.answer.shots }));
}

/** How wide the pictures of all shots are sent, and of how many at most. */
const [wide, most] = [1280, 400];

/** The name of the picture of a shot, as files can have it. */
const fileName = (title: string) => title.replace(/[^\p{L}\p{N} _-]/gu, '_').trim() || 'shot';

/** Draws the pictures of all shots anew and hands them out together. */
export async function sendPictures(): Promise<void> {
  const { scene } = get();
  const shots = get().shots.slice(0, most);
  // Fetched when it is first asked for.
  const { strToU8, zip } = await import('fflate');
  const files: Zippable = {};
  const without: string[] = [];
  for (const [i, shot] of shots.entries()) {
    say({ kind: 'info', text: `Drawing ${shot.title}: ${i + 1} of ${shots.length}…` });
    const height = Math.max(2, Math.round(wide / Math.max(1, shot.aspect)));
    const picture =
      shot.cameraNote === null
        ? await open.picture?.throughShot(shot.id, Math.max(2, Math.round(height * shot.aspect)), height, 'image/png')
        : null;
    if (get().scene?.id !== scene?.id) return;
    if (!picture) without.push(shot.title);
    else files[distinct(fileName(shot.title), files)] = [new Uint8Array(await picture.arrayBuffer()), { level: 0 }];
  }
  if (without.length > 0) files['without picture.txt'] = strToU8(`${without.join('\n')}\n`);
  if (without.length === shots.length) {
    say({ kind: 'info', text: 'No shot has a camera to be drawn through.' });
    return;
  }
  if (get().shots.length > most) files['more.txt'] = strToU8(`Only the first ${most} shots are in here.\n`);
  const bytes = await new Promise<Uint8Array<ArrayBuffer>>((done, failed) =>
    zip(files, (error, all) => (error ? failed(error) : done(all as Uint8Array<ArrayBuffer>))),
  );
  hand({ blob: new Blob([bytes], { type: 'application/zip' }), name: `${fileName(scene!.name)} shots.zip` });
}

function distinct(name: string, files: Zippable): string {
  for (let n = 1; ; n++) {
    const file = `${name}${n === 1 ? '' : ` ${n}`}.png`;
    if (!(file in files)) return file;
  }
}
