import { get } from '../state/store';
import { hand } from './handing';
import { open, say } from './open';

/** Pixels of the sheet. */
const [wide, high, gap, margin, words] = [320, 180, 16, 24, 44];
/** Beyond this a sheet would be too large for browsers to draw. */
const most = 400;

/** Draws all shots anew, small, with their names and lengths, and hands them out as one picture. */
export async function sendSheet(): Promise<void> {
  const { scene, timing } = get();
  const shots = get().shots.slice(0, most);
  const columns = Math.min(5, Math.max(1, Math.ceil(Math.sqrt(shots.length * 1.2))));
  const rows = Math.ceil(shots.length / columns);
  const sheet = document.createElement('canvas');
  sheet.width = 2 * margin + columns * (wide + gap) - gap;
  sheet.height = 2 * margin + 40 + rows * (high + words + gap) - gap;
  const on = sheet.getContext('2d')!;
  const style = getComputedStyle(document.documentElement);
  const color = (name: string) => style.getPropertyValue(name).trim();
  await document.fonts.ready;
  const font = (weight: number, size: number) => `${weight} ${size}px ${getComputedStyle(document.body).fontFamily}`;
  on.fillStyle = color('--paper');
  on.fillRect(0, 0, sheet.width, sheet.height);
  on.fillStyle = color('--ink-1');
  on.font = font(600, 20);
  on.fillText(
    `${scene!.name} · ${get().shots.length} shots · ${timing.total} frames`,
    margin,
    margin + 20,
    sheet.width - 2 * margin,
  );
  const cell = document.createElement('canvas');
  for (const [i, shot] of shots.entries()) {
    const [x, y] = [
      margin + (i % columns) * (wide + gap),
      margin + 40 + Math.floor(i / columns) * (high + words + gap),
    ];
    on.fillStyle = color('--line');
    on.fillRect(x, y, wide, high);
    const scale = Math.min(wide / shot.aspect, high);
    [cell.width, cell.height] = [Math.max(1, Math.round(scale * shot.aspect)), Math.max(1, Math.round(scale))];
    if (shot.cameraNote === null && open.picture?.drawOnto(shot.id, cell))
      on.drawImage(cell, x + (wide - cell.width) / 2, y + (high - cell.height) / 2);
    on.fillStyle = color('--ink-1');
    on.font = font(600, 14);
    on.fillText(shot.title, x, y + high + 18, wide - 90);
    on.textAlign = 'right';
    on.fillStyle = color('--ink-2');
    on.font = font(400, 13);
    on.fillText(shot.length, x + wide, y + high + 18);
    on.textAlign = 'left';
    if (shot.note) on.fillText(shot.note, x, y + high + 36, wide);
    // One at a time, so that the page goes on meanwhile.
    if (i % 4 === 3) await new Promise((next) => setTimeout(next));
    if (get().scene?.id !== scene?.id) return;
  }
  open.picture?.draw();
  const blob = await new Promise<Blob | null>((done) => sheet.toBlob(done, 'image/png'));
  if (!blob) say({ kind: 'refusal', text: 'This browser cannot make a picture of so many shots.' });
  else hand({ blob, name: `${scene!.name} contact sheet.png` });
}
