import {
  Color,
  DoubleSide,
  FrontSide,
  LineBasicMaterial,
  MeshBasicMaterial,
  MeshLambertMaterial,
  MeshStandardMaterial,
  PointsMaterial,
  Vector2,
  type Material as ThreeMaterial,
} from 'three';
import type { Surface, TextureUse } from '../core/answers';
import type { Shading } from '../state/shadings';
import { Textures } from './textures';
import { take } from './inked';
import type { Colour } from '../core/colour';

/** How things without a material look; the core says the same. */
export const bare: Surface = {
  color: '#CFC8BB',
  roughness: 0.9,
  metalness: 0,
  opacity: 1,
  emissive: '#000000',
  emissiveStrength: 1,
  alphaMode: 'opaque',
  alphaCutoff: 0.5,
  doubleSided: false,
  unlit: false,
  lies: null,
  textures: [],
};

/** What one batch is drawn in: a material by its id, or a plain colour instead. */
export interface Look {
  /** Empty: what things without a material look like. */
  material: string;
  /** The colour that it stands in instead of its own; null: its own. */
  tint: string | null;
  vertexColors: boolean;
  /** Normals go by the geometry's tangents. */
  tangents: boolean;
}

type Kind = Exclude<Shading, 'wire' | 'wireOver' | 'picture'>;

/** What decides which class and which defines a surface has; all else are numbers that change from picture to picture. */
function buildOf(kind: Kind, surface: Surface): string {
  if (kind === 'clay' || kind === 'seeThrough') return surface.alphaMode;
  const maps = surface.textures.map((t) => t.channel).sort();
  return JSON.stringify([surface.unlit, surface.alphaMode, surface.doubleSided, maps]);
}

interface Made {
  kind: Kind;
  look: Look;
  build: string;
  three: ThreeMaterial;
}

/**
 * Materials by shading and look, made when first wanted: one for all that is made of a material, so that another colour is one number that
 * changes, however many objects have it. Edges and symbols follow the theme.
 */
export class Materials {
  private readonly made = new Map<string, Made>();
  private readonly surfaces = new Map<string, Surface>();
  private readonly textures: Textures;
  private readonly lines = new Map<string, LineBasicMaterial>();
  private readonly points = new Map<string, PointsMaterial>();
  readonly edge = new LineBasicMaterial({ transparent: true });
  readonly symbol = new LineBasicMaterial();

  constructor(fetchPicture: (hash: string) => Promise<ImageBitmap | null>, changed: () => void) {
    this.textures = new Textures(fetchPicture, (hash) => {
      for (const [id, surface] of this.surfaces) if (surface.textures.some((t) => t.image === hash)) this.dress(id);
      changed();
    });
  }

  setInk(ink: string, opacity: number): void {
    this.edge.color.set(ink);
    this.edge.opacity = opacity;
    this.symbol.color.set(ink);
  }

  surfaceOf(id: string): Surface {
    return this.surfaces.get(id) ?? bare;
  }

  /** Takes over what a material is like; null: it is gone. Tells whether what is made of it has to be built anew. */
  put(id: string, surface: Surface | null): boolean {
    const before = this.surfaceOf(id);
    if (surface === null) this.surfaces.delete(id);
    else this.surfaces.set(id, surface);
    const now = this.surfaceOf(id);
    if (JSON.stringify(before) === JSON.stringify(now)) return false;
    this.dress(id);
    const laid = (s: Surface) => JSON.stringify([s.lies, s.textures.length > 0]);
    return (before.alphaMode === 'blend') !== (now.alphaMode === 'blend') || laid(before) !== laid(now);
  }

  get ids(): string[] {
    return [...this.surfaces.keys()];
  }

  /** The surface material of a look; null where surfaces are not drawn. */
  surface(shading: Shading, look: Look): ThreeMaterial | null {
    if (shading === 'wire') return null;
    const kind = shading === 'wireOver' ? 'clay' : shading === 'picture' ? 'lamps' : shading;
    const key = `${kind}|${JSON.stringify(look)}`;
    let made = this.made.get(key);
    if (!made) {
      const surface = this.surfaceOf(look.material);
      made = { kind, look, build: buildOf(kind, surface), three: make(kind, surface) };
      this.made.set(key, made);
      this.apply(made);
    }
    return made.three;
  }

  line({ material, tint }: Look): LineBasicMaterial {
    return inColour(this.lines, material, tint, this.surfaceOf(material).color, () => new LineBasicMaterial());
  }

  point({ material, tint }: Look): PointsMaterial {
    const fresh = () => new PointsMaterial({ size: 3, sizeAttenuation: false });
    return inColour(this.points, material, tint, this.surfaceOf(material).color, fresh);
  }

  /** Lets go of what is made for other looks, and of pictures that none of these shows. */
  keep(looks: Look[]): void {
    const kept = new Set(looks.map((look) => JSON.stringify(look)));
    for (const [key, { three, look }] of this.made) {
      if (kept.has(JSON.stringify(look))) continue;
      three.dispose();
      this.made.delete(key);
    }
    const lines = new Set(looks.map(({ material, tint }) => `${material}|${tint ?? ''}`));
    for (const map of [this.lines, this.points]) {
      for (const [key, three] of map) {
        if (lines.has(key)) continue;
        three.dispose();
        map.delete(key);
      }
    }
    const shown = looks.flatMap((look) => this.surfaceOf(look.material).textures.map((t) => t.image));
    this.textures.keep(new Set(shown));
  }

  texturesReady(): Promise<void> {
    return this.textures.ready();
  }

  holdTextures(): () => void {
    return this.textures.hold();
  }

  /** Everything that is made of a material follows it. */
  private dress(id: string): void {
    for (const made of this.made.values()) {
      if (made.look.material !== id) continue;
      const build = buildOf(made.kind, this.surfaceOf(id));
      if (build !== made.build) {
        made.three.dispose();
        made.three = make(made.kind, this.surfaceOf(id));
        made.build = build;
      }
      this.apply(made);
    }
    for (const map of [this.lines, this.points]) {
      const plain = map.get(`${id}|`);
      if (plain) take(plain.color, this.surfaceOf(id).color);
    }
  }

  /** Writes the numbers and pictures of a surface into what three.js draws it with. */
  private apply({ kind, look, three }: Made): void {
    const surface = this.surfaceOf(look.material);
    const plain = look.tint !== null;
    const clear = kind === 'seeThrough' ? 0.24 : surface.alphaMode === 'blend' ? surface.opacity : 1;
    three.opacity = surface.alphaMode === 'mask' && kind !== 'seeThrough' ? surface.opacity : clear;
    three.vertexColors = look.vertexColors;
    if (three instanceof MeshLambertMaterial) {
      const picture = plain ? undefined : surface.textures.find((t) => t.channel === 'BaseColor');
      take(three.color, look.tint ?? surface.color);
      // Clay has no pictures: it stands in the mean of what they show.
      if (picture) three.color.multiply(new Color(this.textures.mean(picture.image)));
      return;
    }
    const [color, emissive] = [look.tint ?? surface.color, plain ? '#000000' : surface.emissive];
    const use = (channel: string) => (plain ? undefined : surface.textures.find((t) => t.channel === channel));
    const own = surface.lies === null || surface.lies.how === 'own';
    const map = (channel: string) => {
      const found = use(channel);
      return found ? this.textures.of(found, own) : null;
    };
    three.alphaTest = surface.alphaMode === 'mask' ? surface.alphaCutoff : 0;
    if (three instanceof MeshBasicMaterial) {
      take(three.color, color);
      three.map = map('BaseColor');
      return;
    }
    if (!(three instanceof MeshStandardMaterial)) return;
    take(three.color, color);
    take(three.emissive, emissive);
    three.emissiveIntensity = surface.emissiveStrength;
    three.roughness = surface.roughness;
    three.metalness = surface.metalness;
    three.map = map('BaseColor');
    three.emissiveMap = map('Emissive');
    three.roughnessMap = three.metalnessMap = map('MetallicRoughness');
    three.aoMap = map('Occlusion');
    three.aoMapIntensity = strength(use('Occlusion'));
    three.normalMap = map('Normal');
    const deep = strength(use('Normal'));
    // As the standard's readers do: without tangents the picture's own directions are found the other way round.
    three.normalScale.set(deep, look.tangents ? deep : -deep);
  }
}

const strength = (use: TextureUse | undefined) => use?.strength ?? 1;

function inColour<T extends LineBasicMaterial | PointsMaterial>(
  all: Map<string, T>,
  id: string,
  tint: string | null,
  color: Colour,
  fresh: () => T,
): T {
  const key = `${id}|${tint ?? ''}`;
  let one = all.get(key);
  if (!one) {
    all.set(key, (one = fresh()));
    take(one.color, tint ?? color);
  }
  return one;
}

function make(kind: Kind, surface: Surface): ThreeMaterial {
  const blends = kind === 'seeThrough' || surface.alphaMode === 'blend';
  const arranging = kind === 'clay' || kind === 'seeThrough';
  const common = {
    transparent: blends,
    depthWrite: !blends,
    // While arranging nothing is missing because it is looked at from behind.
    side: arranging || surface.doubleSided ? DoubleSide : FrontSide,
    shadowSide: FrontSide,
    // Edges drawn over the surfaces must not be swallowed by them.
    polygonOffset: true,
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
  } as const;
  if (arranging) return new MeshLambertMaterial(common);
  if (surface.unlit) return new MeshBasicMaterial(common);
  return new MeshStandardMaterial({ ...common, normalScale: new Vector2(1, 1) });
}
