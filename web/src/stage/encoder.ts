import type { PictureType } from '../acts/open';

/** Colours row by row, the lowest row first. */
export interface Pixels {
  colors: Uint8Array<ArrayBuffer>;
  width: number;
  height: number;
}

/** How far away everything is: metres along the view, and between which; the lowest row first, 0 where nothing is. */
export interface Depths {
  values: Float32Array<ArrayBuffer>;
  near: number;
  far: number;
  width: number;
  height: number;
}

/** What the worker is asked to make a file of. */
export type Wanted = { image: Pixels; type: PictureType } | { depths: Depths };

let worker: Worker | null = null;
let next = 0;
const waiting = new Map<number, (file: Blob | null) => void>();

/** A picture as a file, made beside the page. */
export function encoded(image: Pixels, type: PictureType): Promise<Blob | null> {
  return ask({ image, type }, image.colors.buffer);
}

/** Depths as a file of 65 535 greys: white is the nearest, black where nothing is. */
export function encodedDepths(depths: Depths): Promise<Blob | null> {
  return ask({ depths }, depths.values.buffer);
}

function ask(wanted: Wanted, given: ArrayBuffer): Promise<Blob | null> {
  if (!worker) {
    worker = new Worker(new URL('./encoding.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<{ id: number; file: Blob | null }>) => {
      waiting.get(data.id)?.(data.file);
      waiting.delete(data.id);
    };
    // Another is begun when something is next asked for: this one may not even have been fetched.
    worker.onerror = () => {
      worker?.terminate();
      worker = null;
      for (const done of waiting.values()) done(null);
      waiting.clear();
    };
  }
  const id = next++;
  worker.postMessage({ id, wanted }, [given]);
  return new Promise((done) => waiting.set(id, done));
}
