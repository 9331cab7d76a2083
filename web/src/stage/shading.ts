import {
  Color,
  DoubleSide,
  FrontSide,
  LineBasicMaterial,
  MeshLambertMaterial,
  MeshStandardMaterial,
  PointsMaterial,
  SRGBColorSpace,
  Texture,
  type Material as ThreeMaterial,
} from 'three';
import type { Material } from '../core/answers';
import type { Shading } from '../state/shadings';

/** What the materials of one batch have in common; colours are kept per object. */
export interface Look {
  emissive: string;
  opacity: number;
  roughness: number;
  metalness: number;
  vertexColors: boolean;
  /** The picture laid on the surface, by its hash. */
  picture: string | null;
}

export function lookOf(material: Material | undefined, vertexColors: boolean): Look {
  const picture = material?.textures?.find((t) => t.channel === 'BaseColor')?.image ?? null;
  return {
    emissive: material?.emissive ?? '#000000',
    opacity: material?.opacity ?? 1,
    roughness: Math.round((material?.roughness ?? 0.9) * 50) / 50,
    metalness: Math.round((material?.metalness ?? 0) * 50) / 50,
    vertexColors,
    picture,
  };
}

/** Materials by shading and look, made when first wanted. Edges and symbols follow the theme. */
export class Materials {
  private readonly made = new Map<string, ThreeMaterial>();
  private readonly pictures = new Map<string, Texture>();
  readonly edge = new LineBasicMaterial({ transparent: true });
  readonly symbol = new LineBasicMaterial();
  readonly line = new LineBasicMaterial();
  readonly point = new PointsMaterial({ size: 3, sizeAttenuation: false });

  constructor(
    private readonly fetchPicture: (hash: string) => Promise<ImageBitmap | null>,
    private readonly changed: () => void,
  ) {}

  setInk(ink: string, opacity: number): void {
    this.edge.color.set(ink);
    this.edge.opacity = opacity;
    this.symbol.color.set(ink);
  }

  /** The surface material of a look; null where surfaces are not drawn. */
  surface(shading: Shading, look: Look): ThreeMaterial | null {
    if (shading === 'wire') return null;
    const kind = shading === 'wireOver' ? 'clay' : shading === 'picture' ? 'lamps' : shading;
    const key = `${kind}|${JSON.stringify(look)}`;
    let material = this.made.get(key);
    if (!material) this.made.set(key, (material = this.make(kind, look)));
    return material;
  }

  /** Lets go of the materials of other looks, and of pictures that none of these shows. */
  keep(looks: Look[]): void {
    const kept = new Set(looks.map((look) => JSON.stringify(look)));
    for (const [key, material] of this.made) {
      if (kept.has(key.slice(key.indexOf('|') + 1))) continue;
      material.dispose();
      this.made.delete(key);
    }
    const shown = new Set(looks.map((look) => look.picture));
    for (const [hash, texture] of this.pictures) {
      if (shown.has(hash)) continue;
      texture.dispose();
      if (texture.image instanceof ImageBitmap) texture.image.close();
      this.pictures.delete(hash);
    }
  }

  private make(kind: Exclude<Shading, 'wire' | 'wireOver' | 'picture'>, look: Look): ThreeMaterial {
    const clear = kind === 'seeThrough' ? 0.24 : look.opacity;
    const common = {
      emissive: new Color(look.emissive),
      vertexColors: look.vertexColors,
      transparent: clear < 1,
      opacity: clear,
      depthWrite: clear >= 1,
      side: DoubleSide,
      shadowSide: FrontSide,
      // Edges drawn over the surfaces must not be swallowed by them.
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
    } as const;
    if (kind === 'clay' || kind === 'seeThrough') return new MeshLambertMaterial(common);
    const map = look.picture === null ? null : this.picture(look.picture);
    return new MeshStandardMaterial({ ...common, roughness: look.roughness, metalness: look.metalness, map });
  }

  private picture(hash: string): Texture {
    let texture = this.pictures.get(hash);
    if (!texture) {
      const waiting = new Texture();
      waiting.colorSpace = SRGBColorSpace;
      waiting.flipY = false;
      this.pictures.set(hash, (texture = waiting));
      void this.fetchPicture(hash).then((image) => {
        if (!image) return;
        waiting.image = image;
        waiting.needsUpdate = true;
        this.changed();
      });
    }
    return texture;
  }
}
