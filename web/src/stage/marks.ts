import { InstancedBufferAttribute, InstancedMesh, Scene, type Material, type Matrix4 } from 'three';
import type { DrawnPart } from '../core/geometry';
import { InstancedLines } from './batches';

/** How a node is marked. Each marking has a look of its own in the outlines. */
export type Marking = 'lead' | 'picked' | 'riding' | 'hovered' | 'ghost';

/** One thing to be marked: a part of a node, and where it stands less the origin. */
export interface Marked {
  part: DrawnPart;
  matrix: Matrix4;
  marking: Marking;
}

type Silhouette = InstancedMesh | InstancedLines;

/** The silhouettes of what is marked, instanced like the pictures, in a scene of their own. */
export class Marks {
  readonly scene = new Scene();
  private readonly silhouettes = new Map<string, Silhouette>();

  constructor() {
    this.scene.matrixWorldAutoUpdate = false;
  }

  /** Takes over what is to be marked in the next picture. */
  set(marked: Marked[]): void {
    const groups = new Map<string, Marked[]>();
    for (const one of marked) {
      if (one.part.mode === 'points') continue;
      const key = `${one.marking}|${one.part.geometry.uuid}`;
      const group = groups.get(key);
      if (group) group.push(one);
      else groups.set(key, [one]);
    }
    for (const key of this.silhouettes.keys()) if (!groups.has(key)) this.drop(key);
    for (const [key, group] of groups) {
      const silhouette = this.of(key, group[0]!.part, group.length);
      silhouette.userData['marking'] = group[0]!.marking;
      group.forEach(({ matrix }, i) => matrix.toArray(silhouette.instanceMatrix.array, 16 * i));
      silhouette.count = group.length;
      silhouette.instanceMatrix.needsUpdate = true;
    }
  }

  /** Gives every silhouette its material; what has none is left out. True when anything is drawn. */
  dress(material: (marking: Marking) => Material | null): boolean {
    let any = false;
    for (const silhouette of this.silhouettes.values()) {
      const given = material(silhouette.userData['marking'] as Marking);
      silhouette.visible = given !== null;
      if (given) silhouette.material = given;
      any ||= silhouette.visible;
    }
    return any;
  }

  private of(key: string, part: DrawnPart, count: number): Silhouette {
    const known = this.silhouettes.get(key);
    if (known && known.instanceMatrix.count >= count) return known;
    if (known) this.drop(key);
    const room = Math.ceil(count * 1.5);
    const made =
      part.mode === 'triangles'
        ? new InstancedMesh(part.geometry, undefined, room)
        : new InstancedLines(part.geometry, new InstancedBufferAttribute(new Float32Array(16 * room), 16));
    made.frustumCulled = false;
    made.matrixAutoUpdate = made.matrixWorldAutoUpdate = false;
    this.silhouettes.set(key, made);
    this.scene.add(made);
    return made;
  }

  private drop(key: string): void {
    const silhouette = this.silhouettes.get(key)!;
    this.scene.remove(silhouette);
    if (silhouette instanceof InstancedMesh) silhouette.dispose();
    this.silhouettes.delete(key);
  }
}
