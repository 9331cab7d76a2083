import { Matrix4, Vector3 } from 'three';
import { session } from '../acts/session';
import type { Pictures } from './pictures';

/** A short line that stands on a face. */
export interface Upright {
  at: Vector3;
  way: Vector3;
}

/** Of very fine surfaces every so many faces are enough to see how they look. */
const enough = 600;

/** Uprights of the faces of what is picked, from their middles; the core turns the faces into them. */
export class Uprights {
  private key = '';
  private lines: Upright[] = [];

  constructor(private readonly pictures: Pictures) {}

  /** Computed anew only when other things are picked, or the scene has changed. */
  of(selection: string[], origin: Vector3): Upright[] {
    const key = `${selection.join()} ${session.core.revision()}`;
    if (this.key !== key) {
      this.key = key;
      this.lines = selection.flatMap((id) => this.ofOne(id, origin));
    }
    return this.lines;
  }

  private ofOne(id: string, origin: Vector3): Upright[] {
    const drawn = this.pictures.get(id);
    const lines: Upright[] = [];
    if (!drawn) return lines;
    const matrix = this.pictures.matrix(drawn, new Matrix4());
    for (const { part } of drawn.entries) {
      if (part.mode !== 'triangles') continue;
      const position = part.geometry.getAttribute('position');
      const index = part.geometry.getIndex();
      const count = (index ? index.count : position.count) / 3;
      const every = Math.max(1, Math.ceil(count / enough));
      for (let t = 0; t < count; t += every) {
        const corners = [0, 1, 2].map((k) =>
          new Vector3().fromBufferAttribute(position, index ? index.getX(3 * t + k) : 3 * t + k),
        );
        const at = corners[0]!
          .clone()
          .add(corners[1]!)
          .add(corners[2]!)
          .divideScalar(3)
          .applyMatrix4(matrix)
          .add(origin);
        const way = session.core.normalOf(
          id,
          corners.map((c) => c.toArray()),
        );
        lines.push({ at, way: new Vector3(...way) });
      }
    }
    return lines;
  }
}
