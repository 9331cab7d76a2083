import { InstancedBufferAttribute, InstancedMesh, LineSegments, Scene, type Material, type Matrix4 } from 'three';
import type { DrawnPart } from '../core/geometry';
import { letGo, repeated, type RepeatedLines } from './batches';

/** How a node is marked. Each marking has a look of its own in the outlines. */
export type Marking = 'lead' | 'picked' | 'riding' | 'hovered' | 'ghost' | 'mate';

/** One thing to be marked: a part of a node, and where it stands less the origin. */
export interface Marked {
  id: string;
  part: DrawnPart;
  matrix: Matrix4;
  marking: Marking;
}

type Silhouette = InstancedMesh | RepeatedLines;

/** The silhouettes of what is marked, instanced like the pictures, in a scene of their own. */
export class Marks {
  readonly scene = new Scene();
  private taken: Marked[] | null = null;
  private readonly silhouettes = new Map<DrawnPart, Map<Marking, Silhouette>>();

  constructor() {
    this.scene.matrixWorldAutoUpdate = false;
  }

  /** Takes over what is to be marked in the next picture; the same list is taken over once. */
  set(marked: Marked[]): void {
    if (marked === this.taken) return;
    this.taken = marked;
    for (const silhouette of this.all()) silhouette.count = 0;
    for (const { part, matrix, marking } of marked) {
      if (part.mode === 'points') continue;
      const silhouette = this.of(part, marking);
      matrix.toArray(silhouette.instanceMatrix.array, 16 * silhouette.count++);
      silhouette.instanceMatrix.needsUpdate = true;
    }
    for (const [part, silhouettes] of this.silhouettes) {
      for (const [marking, { count }] of silhouettes) if (count === 0) this.drop(silhouettes, marking);
      if (silhouettes.size === 0) this.silhouettes.delete(part);
    }
  }

  private *all(): Iterable<Silhouette> {
    for (const silhouettes of this.silhouettes.values()) yield* silhouettes.values();
  }

  /** Gives every silhouette its material; what has none is left out. True when anything is drawn. */
  dress(material: (marking: Marking) => Material | null): boolean {
    let any = false;
    for (const silhouette of this.all()) {
      const given = material(silhouette.userData['marking'] as Marking);
      silhouette.visible = given !== null;
      if (given) silhouette.material = given;
      any ||= silhouette.visible;
    }
    return any;
  }

  /** The silhouettes of one geometry in one marking, with room for one more. */
  private of(part: DrawnPart, marking: Marking): Silhouette {
    let silhouettes = this.silhouettes.get(part);
    if (!silhouettes) this.silhouettes.set(part, (silhouettes = new Map()));
    const known = silhouettes.get(marking);
    if (known && known.count < known.instanceMatrix.count) return known;
    const made = silhouetteOf(part, known ? known.count * 2 : 4);
    made.count = 0;
    if (known) {
      made.count = known.count;
      made.instanceMatrix.array.set(known.instanceMatrix.array);
      this.drop(silhouettes, marking);
    }
    made.userData['marking'] = marking;
    silhouettes.set(marking, made);
    this.scene.add(made);
    return made;
  }

  private drop(silhouettes: Map<Marking, Silhouette>, marking: Marking): void {
    const silhouette = silhouettes.get(marking)!;
    this.scene.remove(silhouette);
    letGo(silhouette);
    silhouettes.delete(marking);
  }
}

function silhouetteOf(part: DrawnPart, room: number): Silhouette {
  const made =
    part.mode === 'triangles'
      ? new InstancedMesh(part.geometry, undefined, room)
      : repeated(new LineSegments(part.geometry), new InstancedBufferAttribute(new Float32Array(16 * room), 16));
  made.frustumCulled = false;
  made.matrixAutoUpdate = made.matrixWorldAutoUpdate = false;
  return made;
}
