/** How large an image is, read from the start of its file before anybody decodes it; null: it is none of the kinds that are taken. */
export async function imageSize(file: Blob): Promise<{ width: number; height: number } | null> {
  const bytes = new Uint8Array(await file.slice(0, 512 * 1024).arrayBuffer());
  const view = new DataView(bytes.buffer);
  const text = (at: number, length: number) => String.fromCharCode(...bytes.subarray(at, at + length));
  if (bytes.length > 24 && text(1, 3) === 'PNG') return { width: view.getUint32(16), height: view.getUint32(20) };
  if (bytes.length > 30 && text(0, 4) === 'RIFF' && text(8, 4) === 'WEBP') return ofWebP(view, text(12, 4));
  if (bytes.length > 4 && bytes[0] === 0xff && bytes[1] === 0xd8) return ofJpeg(bytes, view);
  return null;
}

/** Source: RFC 9649. */
function ofWebP(view: DataView, kind: string): { width: number; height: number } | null {
  const three = (at: number) => view.getUint16(at, true) + view.getUint8(at + 2) * 65536;
  if (kind === 'VP8X') return { width: three(24) + 1, height: three(27) + 1 };
  if (kind === 'VP8 ') return { width: view.getUint16(26, true) & 0x3fff, height: view.getUint16(28, true) & 0x3fff };
  if (kind !== 'VP8L') return null;
  const bits = view.getUint32(21, true);
  return { width: (bits & 0x3fff) + 1, height: ((bits >>> 14) & 0x3fff) + 1 };
}

/** The first segment that says how large it is. Source: ITU-T T.81, B.2.2. */
function ofJpeg(bytes: Uint8Array, view: DataView): { width: number; height: number } | null {
  for (let at = 2; at + 9 < bytes.length;) {
    if (bytes[at] !== 0xff) return null;
    const marker = bytes[at + 1]!;
    const isFrame = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);
    if (isFrame) return { width: view.getUint16(at + 7), height: view.getUint16(at + 5) };
    at += marker === 0xff ? 1 : 2 + view.getUint16(at + 2);
  }
  return null;
}
