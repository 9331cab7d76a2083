import { create } from 'zustand';

/** What the page shows of the last drawn picture; apart from its other state, since it changes with every picture. */
export interface FramesState {
  drawn: number;
  /** Metres between two dots of the ground. */
  spacing: number;
  /** Where each view lies on the stage; null: not shown. */
  rects: ({ x: number; y: number; width: number; height: number } | null)[];
}

export const useFrames = create<FramesState>(() => ({ drawn: 0, spacing: 1, rects: [null, null, null, null] }));

export const setFrames = useFrames.setState;
