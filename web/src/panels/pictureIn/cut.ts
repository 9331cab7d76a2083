/** Which part of a picture is wanted, after it was turned, and how large at most. */
export interface Cut {
  area: { x: number; y: number; width: number; height: number };
  /** Quarters of a turn, in degrees, clockwise. */
  turn: number;
  /** The longest side, in pixels. */
  most: number;
}

const quality = 0.92;

/** Cuts a part out of a picture and makes a file of it: in the kind that it came in, as far as readers of scenes take it. */
export async function cut(
  image: Blob,
  { area, turn, most }: Cut,
): Promise<{ blob: Blob; width: number; height: number }> {
  const bitmap = await createImageBitmap(image);
  const lying = turn % 180 !== 0;
  const [wide, high] = lying ? [bitmap.height, bitmap.width] : [bitmap.width, bitmap.height];
  const by = Math.min(1, most / Math.max(area.width, area.height));
  const width = Math.max(1, Math.round(area.width * by));
  const height = Math.max(1, Math.round(area.height * by));
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [width, height];
  const context = canvas.getContext('2d')!;
  context.imageSmoothingQuality = 'high';
  context.scale(width / area.width, height / area.height);
  context.translate(wide / 2 - area.x, high / 2 - area.y);
  context.rotate((turn * Math.PI) / 180);
  context.drawImage(bitmap, -bitmap.width / 2, -bitmap.height / 2);
  bitmap.close();
  const type = image.type === 'image/jpeg' ? 'image/jpeg' : image.type === 'image/webp' ? 'image/webp' : 'image/png';
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, type, quality));
  return { blob: blob ?? image, width, height };
}

export function saidBytes(bytes: number): string {
  return bytes < 1024
    ? `${bytes} B`
    : bytes < 1024 * 1024
      ? `${Math.round(bytes / 1024)} kB`
      : `${(bytes / 1024 / 1024).toFixed(1)} MB`;
}
