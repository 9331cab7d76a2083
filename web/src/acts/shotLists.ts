import { api } from '../api/client';
import { get, set } from '../state/store';
import { fileName, hand, Pictures } from './handing';
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

/** Reads a list, and shows what it would make of the shots; those that are switched off in it, too, or not. */
export async function readList(file: File, withOff = false): Promise<void> {
  const { scene } = get();
  if (!scene) return;
  await guarded(async () => {
    const answer = await api.askShotList(scene.id, file, withOff);
    if (get().scene?.id === scene.id) set({ asked: { file, answer, withOff }, open: 'shotList' });
  });
}

/** Takes in the list that was read. */
export function takeList(): void {
  const { asked } = get();
  set({ asked: null, open: null });
  if (!asked) return;
  const { shots, firstFrame } = asked.answer;
  inEveryShot(() => keep({ do: 'shotList', shots, ...((firstFrame ?? null) === null ? {} : { firstFrame }) }));
}

/** How wide the pictures of all shots are sent, and of how many at most. */
const [wide, most] = [1280, 400];

/** Draws the pictures of all shots anew and hands them out together. */
export async function sendPictures(): Promise<void> {
  const { scene } = get();
  const shots = get().shots.slice(0, most);
  const pictures = await Pictures.begin();
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
    else await pictures.add(fileName(shot.title, 'shot'), picture);
  }
  if (without.length > 0) pictures.remark('without picture.txt', `${without.join('\n')}\n`);
  if (pictures.isEmpty) {
    say({ kind: 'info', text: 'No shot has a camera to be drawn through.' });
    return;
  }
  if (get().shots.length > most) pictures.remark('more.txt', `Only the first ${most} shots are in here.\n`);
  await pictures.hand(`${fileName(scene!.name, 'scene')} shots`);
}
