import type { Depths, Pixels, Wanted } from './encoder';

/** Makes files of pictures, in a worker of its own, so that no frame waits for it. */
self.onmessage = async ({ data: { id, wanted } }: MessageEvent<{ id: number; wanted: Wanted }>) => {
  let file: Blob | null = null;
  try {
    file = await ('image' in wanted ? picture(wanted.image, wanted.type) : greys(wanted.depths));
  } catch {
    // Without a picture the card says so.
  }
  self.postMessage({ id, file });
};

function picture({ colors, width, height }: Pixels, type: string): Promise<Blob> {
  const canvas = new OffscreenCanvas(width, height);
  const upright = new ImageData(width, height);
  // The lowest row comes first.
  for (let y = 0; y < height; y++)
    upright.data.set(colors.subarray(y * width * 4, (y + 1) * width * 4), (height - 1 - y) * width * 4);
  canvas.getContext('2d')!.putImageData(upright, 0, 0);
  return canvas.convertToBlob({ type, quality: 0.82 });
}

async function greys({ values, near, far, width, height }: Depths): Promise<Blob> {
  const { encode } = await import('fast-png');
  const grey = new Uint16Array(width * height);
  const reach = Math.max(far - near, 1e-9);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const depth = values[(height - 1 - y) * width + x]!;
      grey[y * width + x] = depth > 0 ? 1 + Math.round(65534 * (1 - (depth - near) / reach)) : 0;
    }
  const bytes = encode({ width, height, data: grey, channels: 1, depth: 16 }) as Uint8Array<ArrayBuffer>;
  return new Blob([bytes], { type: 'image/png' });
}
