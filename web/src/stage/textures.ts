import {
  ClampToEdgeWrapping,
  LinearFilter,
  LinearMipmapLinearFilter,
  LinearMipmapNearestFilter,
  MirroredRepeatWrapping,
  NearestFilter,
  NearestMipmapLinearFilter,
  NearestMipmapNearestFilter,
  NoColorSpace,
  RepeatWrapping,
  Source,
  SRGBColorSpace,
  Texture,
  type MagnificationTextureFilter,
  type MinificationTextureFilter,
  type Wrapping,
} from 'three';
import type { TextureUse } from '../core/answers';

/** What stands for the numbers of wrapping and filters of glTF, which are those of WebGL. */
const wraps: Record<number, Wrapping> = {
  10497: RepeatWrapping,
  33071: ClampToEdgeWrapping,
  33648: MirroredRepeatWrapping,
};
const filters: Record<number, MinificationTextureFilter> = {
  9728: NearestFilter,
  9729: LinearFilter,
  9984: NearestMipmapNearestFilter,
  9985: LinearMipmapNearestFilter,
  9986: NearestMipmapLinearFilter,
  9987: LinearMipmapLinearFilter,
};

/** A picture, fetched once however many ways it is laid on. */
interface Image {
  source: Source<ImageBitmap | null>;
  /** Its mean colour, for where surfaces are shown without pictures; null: not known yet. */
  mean: string | null;
  users: Set<Texture>;
}

/** Pictures as three.js takes them: a texture for each way in which one is laid on. */
export class Textures {
  private readonly images = new Map<string, Image>();
  private readonly made = new Map<string, Texture>();
  private readonly coming = new Set<Promise<void>>();
  private held = 0;
  /** What is shown, since nothing was let go of while pictures were held. */
  private shown: Set<string> | null = null;

  constructor(
    private readonly fetchPicture: (hash: string) => Promise<ImageBitmap | null>,
    /** Told when a picture has come. */
    private readonly came: (hash: string) => void,
  ) {}

  /** @param own Whether the picture lies by the thing's own coordinates; else by those that the core has made for it. */
  of(use: TextureUse, own: boolean): Texture {
    const key = `${own}|${JSON.stringify(use)}`;
    const known = this.made.get(key);
    if (known) return known;
    this.shown?.add(use.image);
    const image = this.image(use.image);
    const texture = new Texture();
    texture.source = image.source;
    texture.flipY = false;
    texture.colorSpace = use.channel === 'BaseColor' || use.channel === 'Emissive' ? SRGBColorSpace : NoColorSpace;
    texture.wrapS = wraps[use.wrapS] ?? RepeatWrapping;
    texture.wrapT = wraps[use.wrapT] ?? RepeatWrapping;
    texture.magFilter = (filters[use.magFilter ?? 0] ?? LinearFilter) as MagnificationTextureFilter;
    texture.minFilter = filters[use.minFilter ?? 0] ?? LinearMipmapLinearFilter;
    texture.channel = own ? Math.min(3, use.texCoord) : 0;
    if (use.repeat) texture.repeat.fromArray(use.repeat);
    if (use.offset) texture.offset.fromArray(use.offset);
    if (use.turn) {
      // The standard turns after it has repeated, three.js before. Source: KHR_texture_transform, T · R · S.
      const turn = (use.turn * Math.PI) / 180;
      const [c, s] = [Math.cos(turn), Math.sin(turn)];
      const { repeat: by, offset: to } = texture;
      texture.matrix.set(by.x * c, by.y * s, to.x, -by.x * s, by.y * c, to.y, 0, 0, 1);
      texture.matrixAutoUpdate = false;
    }
    texture.needsUpdate = image.source.data !== null;
    image.users.add(texture);
    this.made.set(key, texture);
    return texture;
  }

  /** The mean colour of a picture; white until it is known. */
  mean(hash: string): string {
    return this.image(hash).mean ?? '#ffffff';
  }

  /** Once all pictures that have been asked for are there. */
  async ready(): Promise<void> {
    while (this.coming.size > 0) await Promise.all(this.coming);
  }

  /** Lets go of no picture until this is released. */
  hold(): () => void {
    this.held++;
    return () => {
      this.held--;
      if (this.held === 0 && this.shown) this.keep(this.shown);
    };
  }

  /** Lets go of pictures that are shown no more. */
  keep(shown: Set<string>): void {
    this.shown = this.held > 0 ? shown : null;
    if (this.held > 0) return;
    for (const [key, texture] of this.made) {
      const { image } = JSON.parse(key.slice(key.indexOf('|') + 1)) as TextureUse;
      if (shown.has(image)) continue;
      texture.dispose();
      this.made.delete(key);
      this.images.get(image)?.users.delete(texture);
    }
    for (const [hash, image] of this.images) {
      if (shown.has(hash)) continue;
      if (image.source.data instanceof ImageBitmap) image.source.data.close();
      this.images.delete(hash);
    }
  }

  private image(hash: string): Image {
    let image = this.images.get(hash);
    if (!image) {
      const waiting: Image = { source: new Source<ImageBitmap | null>(null), mean: null, users: new Set() };
      this.images.set(hash, (image = waiting));
      const come = this.fetchPicture(hash).then((bitmap) => {
        if (!bitmap) return;
        // Nobody may be waiting for it any more.
        if (this.images.get(hash) !== waiting) return void bitmap.close();
        waiting.source.data = bitmap;
        waiting.source.needsUpdate = true;
        waiting.mean = meanOf(bitmap);
        for (const texture of waiting.users) texture.needsUpdate = true;
        this.came(hash);
      });
      this.coming.add(come);
      void come.finally(() => this.coming.delete(come));
    }
    return image;
  }
}

function meanOf(bitmap: ImageBitmap): string {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [16, 16];
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0, 16, 16);
  const { data } = context.getImageData(0, 0, 16, 16);
  const sums = [0, 0, 0];
  let weight = 0;
  for (let i = 0; i < data.length; i += 4) {
    for (let k = 0; k < 3; k++) sums[k]! += data[i + k]! * data[i + 3]!;
    weight += data[i + 3]!;
  }
  if (weight === 0) return '#ffffff';
  return `#${sums.map((sum) => Math.round(sum / weight).toString(16).padStart(2, '0')).join('')}`; // prettier-ignore
}
