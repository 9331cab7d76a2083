import type { CheatReading, ShotReading } from '../wire/bridgeTypes';

/** What the page holds of the shots, and where edits are made. Both belong to the person. */
export interface ShotsSlice {
  shots: ShotReading[];
  /** How often the picture of each may have changed. */
  shotVersions: Map<string, number>;
  /** Frames a second, the number of the first frame, and how long all shots are. */
  timing: { fps: number; firstFrame: number; total: string };
  /** The current shot; null: none. */
  shot: string | null;
  /** Edits are made in the current shot alone. */
  narrow: boolean;
  /** The working view leaves out what the picture of the current shot leaves out. */
  asInShot: boolean;
  /** What is picked has of its own in the current shot. */
  cheats: CheatReading[];
  /** Pictures of shots: where each lies, and what it shows; older ones are made again when nothing else is to be done. */
  shotPictures: Map<string, ShotPicture>;
}

export interface ShotPicture {
  url: string;
  /** Of the versions of the shot; -1: it shows something older. */
  version: number;
}

export const shotsSlice: ShotsSlice = {
  shots: [],
  shotVersions: new Map(),
  timing: { fps: 24, firstFrame: 1, total: '' },
  shot: null,
  narrow: false,
  asInShot: true,
  cheats: [],
  shotPictures: new Map(),
};

/** The current shot; null: none. */
export function currentShot(state: ShotsSlice): ShotReading | null {
  return state.shot === null ? null : (state.shots.find((s) => s.id === state.shot) ?? null);
}
