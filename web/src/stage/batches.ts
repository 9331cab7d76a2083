import {
  DynamicDrawUsage,
  EventDispatcher,
  InstancedBufferAttribute,
  InstancedMesh,
  LineSegments,
  Points,
  type BufferGeometry,
  type InstancedBufferAttribute as Attribute,
} from 'three';
import { edgesOf } from './edges';
import { type Look, type Materials } from './shading';
import { type Shading } from '../state/shadings';
import type { DrawnPart } from '../core/geometry';

/** How far away what is drawn stands, for the order of what lets light through: as three.js counts, or where its one thing stands. */
export interface Sorted {
  id: number;
  groupOrder: number;
  renderOrder: number;
  z: number;
  object: { userData: Record<string, unknown> };
}

/** The farthest first. */
export function farFirst(a: Sorted, b: Sorted): number {
  if (a.groupOrder !== b.groupOrder) return a.groupOrder - b.groupOrder;
  if (a.renderOrder !== b.renderOrder) return a.renderOrder - b.renderOrder;
  const far = (one: Sorted) => {
    const batch = one.object.userData['batch'] as Batch | undefined;
    return batch?.alone ? batch.away : one.z;
  };
  return far(b) - far(a) || a.id - b.id;
}

/** What three.js asks of an object that is drawn many times over in one call; lines and points have no class for it. */
interface Repeated {
  readonly isInstancedMesh: true;
  readonly morphTexture: null;
  instanceMatrix: Attribute;
  instanceColor: Attribute | null;
  count: number;
}

export type RepeatedLines = LineSegments & Repeated;
export type Instanced = InstancedMesh | RepeatedLines | (Points & Repeated);

export function repeated<T extends LineSegments | Points>(object: T, instanceMatrix: Attribute): T & Repeated {
  return Object.assign(object, {
    isInstancedMesh: true,
    morphTexture: null,
    instanceMatrix,
    instanceColor: null,
    count: 0,
  } as const);
}

/** Frees what the graphics card holds of an object; its geometry and material may serve others. */
export function letGo(object: Instanced): void {
  if (object instanceof InstancedMesh) object.dispose();
  else (object as EventDispatcher<{ dispose: object }>).dispatchEvent({ type: 'dispose' });
}

/** Who stands at a place of a batch; told when the place changes. */
export interface Member {
  id: string;
  /** Found again when a place is given up and another takes it. */
  moved(batch: Batch, to: number): void;
}

/** Many objects with one geometry and one look, drawn in one call. A place that shows nothing holds zeros. */
export class Batch {
  readonly members: Member[] = [];
  readonly surface: Instanced;
  private wires: RepeatedLines | null = null;
  private matrices: InstancedBufferAttribute;
  /** How far away it stands in the view that is drawn, as three.js counts. */
  away = 0;
  /** The next upload sends all matrices, not just some ranges. */
  private whole = true;

  constructor(
    readonly part: DrawnPart,
    readonly look: Look,
    private readonly materials: Materials,
    /** Where the triangles turn the wrong way round, the graphics card is told so. */
    readonly mirrored: boolean,
    private readonly symbol: boolean,
    /** What lets light through is drawn thing by thing, the farthest first. */
    readonly alone: boolean,
  ) {
    this.matrices = this.attribute(4);
    if (part.mode === 'triangles') {
      const material = materials.surface('clay', look)!;
      const mesh = new InstancedMesh(part.geometry, material, 0);
      mesh.castShadow = mesh.receiveShadow = true;
      this.surface = mesh;
    } else if (part.mode === 'lines') {
      this.surface = repeated(
        new LineSegments(part.geometry, symbol ? materials.symbol : materials.line(look)),
        this.matrices,
      );
    } else {
      this.surface = repeated(new Points(part.geometry, materials.point(look)), this.matrices);
    }
    this.dress(this.surface);
  }

  get count(): number {
    return this.members.length;
  }

  get array(): Float32Array {
    return this.matrices.array as Float32Array;
  }

  get objects(): Instanced[] {
    return this.wires ? [this.surface, this.wires] : [this.surface];
  }

  add(member: Member): number {
    const at = this.members.length;
    if (at >= this.matrices.count) this.grow();
    this.members.push(member);
    this.setCount();
    return at;
  }

  /** Gives a place up; the last member takes it. */
  remove(at: number): void {
    const last = this.members.length - 1;
    const member = this.members.pop()!;
    if (at !== last) {
      this.members[at] = member;
      this.array.copyWithin(16 * at, 16 * last, 16 * last + 16);
      this.touch(at);
      member.moved(this, at);
    }
    this.setCount();
  }

  /** A matrix has been written in place. */
  touch(at: number): void {
    if (!this.whole && this.matrices.updateRanges.length < 200) {
      this.matrices.addUpdateRange(16 * at, 16);
      this.matrices.needsUpdate = true;
    } else this.touchAll();
  }

  /** All matrices have been written. */
  touchAll(): void {
    this.whole = true;
    this.matrices.clearUpdateRanges();
    this.matrices.needsUpdate = true;
  }

  /** Sets what is drawn of the batch, and with which material. */
  shade(shading: Shading, added: (object: Instanced) => void): void {
    const wired = shading === 'wire' || shading === 'wireOver' || shading === 'seeThrough';
    if (this.part.mode !== 'triangles') {
      // Other colours of lines and points are other materials.
      if (!this.symbol)
        this.surface.material = this.materials[this.part.mode === 'lines' ? 'line' : 'point'](this.look);
      return;
    }
    const material = this.materials.surface(shading, this.look);
    this.surface.visible = material !== null && this.count > 0;
    if (material) this.surface.material = material;
    if (wired && !this.wires) {
      this.part.edges ??= edgesOf(this.part.geometry);
      this.wires = repeated(new LineSegments(this.part.edges, this.materials.edge), this.matrices);
      this.dress(this.wires);
      added(this.wires);
    }
    if (this.wires) this.wires.visible = wired && this.count > 0;
  }

  dispose(): void {
    this.objects.forEach(letGo);
  }

  private dress(object: Instanced): void {
    object.matrixAutoUpdate = false;
    object.matrixWorldAutoUpdate = false;
    if (this.mirrored) object.matrixWorld.makeScale(-1, 1, 1);
    object.userData['batch'] = this;
    object.instanceMatrix = this.matrices;
    object.frustumCulled = false;
    object.count = this.count;
    // Small things first: what is large, such as a floor, is then mostly covered already and costs less.
    if (!geometryOf(object).boundingSphere) geometryOf(object).computeBoundingSphere();
    object.renderOrder = this.alone
      ? 0
      : Math.round(8 * Math.log2(Math.max(1e-3, geometryOf(object).boundingSphere!.radius)));
  }

  private setCount(): void {
    for (const object of this.objects) {
      object.count = this.count;
      object.visible = this.count > 0;
    }
  }

  private attribute(count: number): InstancedBufferAttribute {
    const attribute = new InstancedBufferAttribute(new Float32Array(16 * count), 16);
    attribute.setUsage(DynamicDrawUsage);
    attribute.onUpload(() => (this.whole = false));
    return attribute;
  }

  private grow(): void {
    const matrices = this.attribute(this.matrices.count * 2);
    this.whole = true;
    matrices.array.set(this.matrices.array);
    this.matrices = matrices;
    for (const object of this.objects) object.instanceMatrix = matrices;
  }
}

function geometryOf(object: Instanced): BufferGeometry {
  return object.geometry as BufferGeometry;
}

/** So many things that let light through are drawn one by one; more than that, and those of one look stand in one batch. */
const mostAlone = 400;

/** Batches by geometry, look and handedness. */
export class Batches {
  private readonly batches = new Map<string, Batch>();

  constructor(
    private readonly materials: Materials,
    private readonly added: (batch: Batch) => void,
  ) {}

  /** How many are drawn by themselves. */
  private clearOnes = 0;

  get size(): number {
    return this.batches.size;
  }

  get all(): Iterable<Batch> {
    return this.batches.values();
  }

  clear(): void {
    for (const batch of this.batches.values()) batch.dispose();
    this.batches.clear();
    this.clearOnes = 0;
  }

  /** Lets go of batches in which nobody stands any more; tells them. */
  sweep(): Batch[] {
    const empty: Batch[] = [];
    for (const [key, batch] of this.batches) {
      if (batch.count > 0) continue;
      this.batches.delete(key);
      if (batch.alone) this.clearOnes--;
      batch.dispose();
      empty.push(batch);
    }
    return empty;
  }

  /** @param whose Whoever is drawn by itself. */
  of(part: DrawnPart, material: string, tint: string | null, mirrored: boolean, symbol: boolean, whose: string): Batch {
    const { geometry } = part;
    const look: Look = {
      material,
      tint,
      vertexColors: geometry.hasAttribute('color'),
      tangents: geometry.hasAttribute('tangent'),
    };
    const clear = this.materials.surfaceOf(material).alphaMode === 'blend' && this.clearOnes < mostAlone;
    const key = `${geometry.uuid}|${mirrored}|${JSON.stringify(look)}${clear ? `|${whose}` : ''}`;
    let batch = this.batches.get(key);
    if (!batch) {
      batch = new Batch(part, look, this.materials, mirrored, symbol, clear);
      if (clear) this.clearOnes++;
      this.batches.set(key, batch);
      this.added(batch);
    }
    return batch;
  }
}
