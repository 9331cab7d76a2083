import type { WebGLRenderer } from 'three';
import type { StillFiles } from '../acts/open';
import { encoded, encodedDepths } from './encoder';
import type { StillMade } from './still';

/** Once the graphics card has done all that it was asked for. */
export async function done(renderer: WebGLRenderer): Promise<void> {
  const gl = renderer.getContext() as WebGL2RenderingContext;
  const sync = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
  if (!sync) return;
  gl.flush();
  while (!gl.isContextLost() && gl.clientWaitSync(sync, 0, 0) === gl.TIMEOUT_EXPIRED)
    await new Promise((next) => setTimeout(next, 8));
  gl.deleteSync(sync);
}

/** How high the picture of a card is, in pixels. */
const small = 128;

/** A still as files: the image, a small one for its card, and what lies beside it. */
export async function filesOf(made: StillMade): Promise<StillFiles | null> {
  const { width, height } = made.picture;
  const picture = await encoded(made.picture, 'image/png');
  if (!picture) throw new Error('The image is too large to be written as a file. Make it smaller.');
  return {
    picture,
    small: await reduced(picture, Math.max(1, Math.round((width / height) * small))),
    depth: made.depth && (await encodedDepths({ ...made.depth, width, height })),
    metres: made.depth && [made.depth.near, made.depth.far],
    mask: made.mask && (await encoded(made.mask, 'image/png')),
    width,
    height,
    passes: made.passes,
  };
}

async function reduced(picture: Blob, width: number): Promise<Blob | null> {
  const image = await createImageBitmap(picture, { resizeHeight: small, resizeWidth: width, resizeQuality: 'high' });
  const canvas = new OffscreenCanvas(width, small);
  canvas.getContext('2d')!.drawImage(image, 0, 0);
  image.close();
  return canvas.convertToBlob({ type: 'image/webp', quality: 0.8 });
}
