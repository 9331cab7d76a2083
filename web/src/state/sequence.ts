import type { ShotReading } from '../wire/bridgeTypes';

/** The shots one after the other, in frames counted from 0. */

/** How many frames all shots are long. */
export const framesOf = (shots: Pick<ShotReading, 'frames'>[]): number => shots.reduce((sum, s) => sum + s.frames, 0);

/** The shot that a frame lies in, and how many frames it is from that shot's first; before the first and after the last: these. */
export function shotAt(shots: Pick<ShotReading, 'frames'>[], frame: number): { index: number; within: number } {
  let left = Math.max(0, frame);
  for (const [index, shot] of shots.entries()) {
    if (left < shot.frames || index === shots.length - 1) return { index, within: Math.min(left, shot.frames - 1) };
    left -= shot.frames;
  }
  return { index: -1, within: 0 };
}

/** The first frame of a shot. */
export const firstOf = (shots: Pick<ShotReading, 'frames'>[], index: number): number => framesOf(shots.slice(0, index));
