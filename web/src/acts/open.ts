import type { Core } from '../core/core';
import type { CameraView, Projection, Vec3 } from '../core/answers';
import { api, OutOfReach, Refused } from '../api/client';
import { Outbox } from '../api/outbox';
import type { Sync } from '../api/sync';
import type { Memory } from '../state/remembered';
import { get, set, type Notice } from '../state/store';

/** The forms in which pictures are made. */
export type PictureType = 'image/webp' | 'image/png';

/** What a still is to be made of, and how. */
export interface StillWanted {
  shot: string | null;
  camera: string | null;
  view: object | null;
  /** Of the whole picture, in pixels. */
  width: number;
  height: number;
  part: { x: number; y: number; width: number; height: number } | null;
  passes: number;
  transparent: boolean;
  tone: 'neutral' | 'filmic' | 'none';
  depth: boolean;
  mask: boolean;
}

/** A still as files. */
export interface StillFiles {
  picture: Blob;
  small: Blob | null;
  depth: Blob | null;
  /** What its white and its black are: metres along the view. */
  metres: [number, number] | null;
  mask: Blob | null;
  width: number;
  height: number;
  passes: number;
}

/** What draws the scene; the stage implements it. */
export interface Picture {
  rebuild(): void;
  looksChanged(ids: string[]): void;
  /** Some materials, or all, are otherwise, or gone. */
  materialsChanged(ids: string[] | null): void;
  worldsChanged(all: boolean): void;
  /** What is seen, and how it is drawn. */
  sightChanged(): void;
  draw(): void;
  viewWorld(): number[];
  /** What a camera needs to see what the active view sees. */
  lens(): { projection: Projection; fov: number; height: number };
  /** An axis of the sentence as the active view sees it: right, up, toward the eye; null where nothing is picked. */
  axisSeen(axis: number): Vec3 | null;
  /** The point that the active view looks at. */
  focus(): Vec3;
  frame(ids: string[] | null, glide: boolean): void;
  /** The view that a scene is entered by, or where the person was before. */
  startView(memory?: Partial<Memory> | null): void;
  /** The active view without what is drawn about the picked, at once; its file comes a moment later. */
  snapshot(width: number, height: number): Promise<Blob | null>;
  /** A shot through its camera, by its final switches, whatever is shown at the moment; null: it has no camera. */
  throughShot(shot: string, width: number, height: number, type?: PictureType): Promise<Blob | null>;
  /** Views that look through one camera look through another. */
  lookOn(from: string, to: string): void;
  /** A shot drawn at once onto a canvas; false: it has no camera. */
  drawOnto(shot: string, canvas: HTMLCanvasElement): boolean;
  /** What the active view sees, as a camera with the view's own shape. */
  viewAsCamera(): CameraView;
  /** Makes a still; null: it cannot be made, or was not wanted any more. */
  still(
    plan: StillWanted,
    going: { stop: boolean; gone: boolean },
    progress: (done: number, all: number) => void,
  ): Promise<StillFiles | null>;
  /** How bright the active view is by the scene's lamps: the mean of its light, by powers of two; null: it is dark. */
  brightness(): number | null;
  /** A ball in a material as a small picture; null: not at the moment. */
  ball(material: string): string | null;
  /** Views that were turned freely stand upright again. */
  level(): void;
}

/** What is open: the core with its scene, what draws it, and the way to the server. */
class Open {
  core!: Core;
  picture: Picture | null = null;
  sync: Sync | null = null;
  readonly outbox = new Outbox();
  /** Stored geometry that has been fetched, by hash. */
  readonly geometry = new Map<string, Uint8Array>();
  /** Counts the changes that the page has followed; what is kept of the core holds until the next. */
  changes = 0;
}

export const open = new Open();

export function say(notice: Notice | null): void {
  set({ notice });
}

/** Runs a call that the server may refuse, and says so in the sentence when it does. */
export async function guarded(act: () => Promise<void>): Promise<void> {
  try {
    await act();
  } catch (error) {
    const text =
      error instanceof Refused
        ? error.detail
        : error instanceof OutOfReach
          ? error.sentence
          : `Something went wrong: ${String(error)}`;
    say({ kind: 'refusal', text });
  }
}

/** A stored picture of the scene, for surfaces. */
export async function fetchPicture(hash: string): Promise<ImageBitmap | null> {
  const id = get().scene?.id;
  if (!id) return null;
  return api
    .picture(id, hash)
    .then((blob) => createImageBitmap(blob))
    .catch(() => null);
}
