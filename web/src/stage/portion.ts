import type { WebGLRenderer } from 'three';

/** A part of the canvas in the page's pixels, from its lower left corner. */
export interface Portion {
  x: number;
  y: number;
  width: number;
  height: number;
}

// More than what a quotient loses, less than any pixel: three rounds a viewport down in one place and to the nearest in another.
const slack = 1e-6;

/**
 * Draws to a portion of the canvas from here on, in whole pixels of the screen: a portion that ends within a pixel would
 * otherwise end one pixel earlier after shadows were drawn than without, and everything in it would shift.
 */
export function drawTo(renderer: WebGLRenderer, { x, y, width, height }: Portion): void {
  const ratio = renderer.getPixelRatio();
  const [left, low] = [Math.floor(x * ratio + slack), Math.floor(y * ratio + slack)];
  const [right, high] = [Math.floor((x + width) * ratio + slack), Math.floor((y + height) * ratio + slack)];
  const back = (pixels: number) => (pixels + slack) / ratio;
  renderer.setViewport(back(left), back(low), back(right - left), back(high - low));
}
