/** Makes files of pictures, in a worker of its own, so that no frame waits for it. */
self.onmessage = async ({ data }: MessageEvent<{ id: number; image: ImageBitmap }>) => {
  const { id, image } = data;
  let picture: Blob | null = null;
  try {
    const canvas = new OffscreenCanvas(image.width, image.height);
    canvas.getContext('2d')!.drawImage(image, 0, 0);
    image.close();
    picture = await canvas.convertToBlob({ type: 'image/webp', quality: 0.82 });
  } catch {
    // Without a picture the card says so.
  }
  self.postMessage({ id, picture });
};
