import { firstOf, framesOf, shotAt } from '../state/sequence';
import type { Running } from '../state/shotsSlice';
import { get, set } from '../state/store';
import { say } from './open';

/** The shots shown one after the other, for their lengths. */

/** Begins at the current shot, or at the first. */
export function startRun(): void {
  const { shots, shot, running } = get();
  if (shots.length === 0) {
    say({ kind: 'info', text: 'There are no shots to run through yet. Make one of this view first.' });
    return;
  }
  const index = Math.max(
    0,
    shots.findIndex((s) => s.id === shot),
  );
  set({
    running: {
      frame: firstOf(shots, index),
      playing: true,
      loop: running?.loop ?? false,
      cards: running?.cards ?? false,
    },
    notice: null,
  });
}

export const endRun = (): void => set({ running: null });

export function changeRun(change: Partial<Running>): void {
  const { running } = get();
  if (running) set({ running: { ...running, ...change } });
}

/** Goes to the first frame of the next shot, or of this one and then the previous. */
export function stepRun(by: 1 | -1): void {
  const { running, shots } = get();
  if (!running) return;
  const { index, within } = shotAt(shots, running.frame);
  const to = by > 0 ? index + 1 : within > 0 ? index : index - 1;
  changeRun({ frame: firstOf(shots, Math.min(shots.length - 1, Math.max(0, to))) });
}

/** Plays on, or rests; after the end it begins again. */
export function togglePlaying(): void {
  const { running, shots } = get();
  if (!running) return;
  const ended = running.frame >= framesOf(shots) - 1;
  changeRun({ playing: !running.playing, ...(!running.playing && ended ? { frame: 0 } : {}) });
}

/** The frame at a moment: so many since the one that was shown at another moment. At the end it rests there, or begins anew. */
export function frameAt(
  from: number,
  milliseconds: number,
  fps: number,
  total: number,
  loop: boolean,
): { frame: number; ended: boolean } {
  // A billionth of a frame, for moments that are the very end of one.
  const frame = from + Math.floor((milliseconds * fps) / 1000 + 1e-9);
  if (frame < total) return { frame, ended: false };
  return loop ? { frame: frame % total, ended: false } : { frame: total - 1, ended: true };
}
