import type { ShotListAnswer } from '../wire/apiTypes';
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
  /** Two shots beside each other, of null the scene; whether the second stands on the stage as ghosts. */
  comparing: { a: string; b: string | null; ghosts: boolean };
  /** A list of shots that was read, before it is taken in. */
  asked: { file: File; answer: ShotListAnswer; withOff: boolean } | null;
  /** The shots run through; null: they do not. */
  running: Running | null;
  /** The thing that keeps its size while a lens changes. */
  sizeOf: string | null;
  /** Pictures of shots: where each lies, and what it shows; older ones are made again when nothing else is to be done. */
  shotPictures: Map<string, ShotPicture>;
}

/** Shots shown one after the other. Frames are counted over all of them, from 0. */
export interface Running {
  frame: number;
  playing: boolean;
  loop: boolean;
  /** The pictures of the cards are shown: drawing would come too late. */
  cards: boolean;
}

export interface ShotPicture {
  url: string;
  /** Of the versions of the shot; -1: it shows something older. */
  version: number;
}

/** No shot is current; nothing compared, read or running: as it is when a scene is entered. */
export const shotsAtRest = {
  shots: [],
  shot: null,
  narrow: false,
  cheats: [],
  comparing: { a: '', b: null, ghosts: false },
  asked: null,
  running: null,
  sizeOf: null,
} satisfies Partial<ShotsSlice>;

export const shotsSlice: ShotsSlice = {
  ...shotsAtRest,
  shotVersions: new Map(),
  timing: { fps: 24, firstFrame: 1, total: '' },
  asInShot: true,
  shotPictures: new Map(),
};

/** The current shot; null: none. */
export function currentShot(state: ShotsSlice): ShotReading | null {
  return state.shot === null ? null : (state.shots.find((s) => s.id === state.shot) ?? null);
}
