import { api, Refused } from '../api/client';
import type { CopiedNodes } from '../wire/apiTypes';
import { get } from '../state/store';
import { listPictures } from './keptPictures';

/** What is copied as text: objects, and the pictures that their materials show, which the core does not hold. */
export type CopiedText = CopiedNodes & {
  /** The scene that they are from. */
  from?: string;
  /** As data URLs, by hash; left out where they are too large together: then they are fetched from their scene. */
  pictures?: Record<string, string>;
};

/** The most that pictures in a copied text have together. */
const mostBytes = 32 * 1024 * 1024;

/** The pictures that copied materials show, each by the name of the first that does. */
export function picturesOf({ materials }: CopiedText): Map<string, string> {
  const shown = new Map<string, string>();
  for (const material of materials ?? [])
    for (const { image } of Array.isArray(material.textures) ? material.textures : [])
      if (!shown.has(image)) shown.set(image, material.name ?? 'Picture');
  return shown;
}

/** The text with its pictures; without any where they are too large together. */
export async function withPictures(copied: CopiedText): Promise<CopiedText> {
  const pictures: Record<string, string> = {};
  let size = 0;
  for (const hash of picturesOf(copied).keys()) {
    const picture = await api.picture(copied.from!, hash);
    size += picture.size;
    if (size > mostBytes) return copied;
    pictures[hash] = await dataUrlOf(picture);
  }
  return { ...copied, pictures };
}

/**
 * Brings the pictures of a copied text into a scene that does not have them.
 * @returns The text as the core reads it, with the pictures as they are called here.
 * @throws Refused where some are not to be had.
 */
export async function bringPicturesIn(scene: string, text: CopiedText): Promise<CopiedNodes> {
  const { from, pictures, ...copied } = text;
  const here = new Set(get().materials.flatMap((m) => m.surface.textures.map((t) => t.image)));
  const led = new Map<string, string>();
  if (from !== scene)
    for (const [hash, name] of picturesOf(text)) {
      if (here.has(hash)) continue;
      const picture = pictures?.[hash] ? blobOf(pictures[hash]) : await fetched(from, hash, name);
      led.set(hash, (await api.bringPicture(scene, picture, name)).hash);
    }
  if (led.size > 0) await listPictures();
  const materials = copied.materials?.map((material) =>
    Array.isArray(material.textures)
      ? { ...material, textures: material.textures.map((t) => ({ ...t, image: led.get(t.image) ?? t.image })) }
      : material,
  );
  return materials ? { ...copied, materials } : copied;
}

async function fetched(from: string | undefined, hash: string, name: string): Promise<Blob> {
  try {
    if (from !== undefined) return await api.picture(from, hash);
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
  }
  throw new Refused(
    'not-found',
    `A picture of “${name}” is not in the copied text, and the scene that it is from does not have it any more. Copy it again.`,
    404,
  );
}

function dataUrlOf(picture: Blob): Promise<string> {
  return new Promise((done, failed) => {
    const reader = new FileReader();
    reader.onload = () => done(reader.result as string);
    reader.onerror = () => failed(reader.error!);
    reader.readAsDataURL(picture);
  });
}

function blobOf(dataUrl: string): Blob {
  const [head = '', data = ''] = dataUrl.split(',', 2);
  try {
    return new Blob([Uint8Array.from(atob(data), (c) => c.charCodeAt(0))], {
      type: /^data:([^;]*)/.exec(head)?.[1] ?? '',
    });
  } catch {
    throw new Refused('not-understood', 'A picture in the copied text cannot be read. Copy the objects again.', 400);
  }
}
