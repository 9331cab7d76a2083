/** Makes files of pictures, in a worker of its own, so that no frame waits for it. */
self.onmessage = async ({ data }: MessageEvent<Asked>) => {
  const { id, image, type } = data;
  let picture: Blob | null = null;
  try {
    const { colors, width, height } = image;
    const canvas = new OffscreenCanvas(width, height);
    const upright = new ImageData(width, height);
    // The lowest row comes first.
    for (let y = 0; y < height; y++)
      upright.data.set(colors.subarray(y * width * 4, (y + 1) * width * 4), (height - 1 - y) * width * 4);
    canvas.getContext('2d')!.putImageData(upright, 0, 0);
    picture = await canvas.convertToBlob({ type, quality: 0.82 });
  } catch {
    // Without a picture the card says so.
  }
  self.postMessage({ id, picture });
};

interface Asked {
  id: number;
  type: string;
  image: { colors: Uint8Array; width: number; height: number };
}
