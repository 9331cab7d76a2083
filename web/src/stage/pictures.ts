import {
  Box3,
  BufferGeometry,
  Color,
  DoubleSide,
  FrontSide,
  Group,
  LineBasicMaterial,
  LineSegments,
  Matrix4,
  Mesh,
  MeshLambertMaterial,
  Points,
  PointsMaterial,
  Raycaster,
  Sphere,
  Vector3,
  type Intersection,
  type Material as ThreeMaterial,
  type Object3D,
} from 'three';
import { acceleratedRaycast, computeBoundsTree } from 'three-mesh-bvh';
import type { Material, OutlineRow } from '../core/bridge';
import { readGeometry, type DrawnPart } from '../core/geometry';
import { session } from '../state/session';

/** A node as drawn: its parts share one world matrix, which comes from the core. */
interface Drawn {
  slot: number;
  objects: Object3D[];
  key: string;
}

const lampGeometry = buildLamp();
const cameraGeometry = buildCamera();

/** Draws nodes at the places that the core says; equal shapes share one geometry and equal materials one material. */
export class Pictures {
  readonly group = new Group();
  private readonly drawn = new Map<string, Drawn>();
  private readonly bySlot = new Map<number, Drawn>();
  private readonly geometries = new Map<string, DrawnPart[]>();
  private readonly materials = new Map<string, ThreeMaterial>();
  private readonly scratch = new Matrix4();

  constructor() {
    this.group.matrixAutoUpdate = false;
    this.group.matrixWorldAutoUpdate = false;
  }

  /** Draws all nodes anew. */
  rebuild(rows: OutlineRow[], origin: Vector3): void {
    this.group.clear();
    this.drawn.clear();
    this.bySlot.clear();
    for (const row of rows) this.add(row);
    this.place(null, origin);
  }

  /** Draws some nodes anew, which may have come, gone or changed their look. */
  update(ids: string[], byId: Map<string, OutlineRow>, origin: Vector3): void {
    for (const id of ids) {
      const old = this.drawn.get(id);
      if (old) {
        this.group.remove(...old.objects);
        this.drawn.delete(id);
        this.bySlot.delete(old.slot);
      }
    }
    for (const id of ids) {
      const row = byId.get(id);
      if (row) this.add(row);
    }
    this.place(null, origin);
  }

  /** Takes world matrices over from the core's memory: of some slots, or of all. */
  place(slots: Int32Array | null, origin: Vector3): void {
    const worlds = session.core.worlds();
    if (slots === null) {
      for (const drawn of this.drawn.values()) this.placeOne(drawn, worlds, origin);
    } else {
      for (const slot of slots) {
        const drawn = this.bySlot.get(slot);
        if (drawn) this.placeOne(drawn, worlds, origin);
      }
    }
  }

  /** The objects that show a node. */
  objectsOf(id: string): Object3D[] {
    return this.drawn.get(id)?.objects.filter((o) => o.visible) ?? [];
  }

  idOf(object: Object3D): string {
    return object.userData['id'] as string;
  }

  /** The nearest node under a ray, exact to the triangle. */
  pick(raycaster: Raycaster): Intersection | null {
    let nearest: Intersection | null = null;
    const hits: Intersection[] = [];
    for (const object of this.group.children) {
      if (!object.visible || object.userData['locked']) continue;
      hits.length = 0;
      object.raycast(raycaster, hits);
      for (const hit of hits) if (!nearest || hit.distance < nearest.distance) nearest = hit;
    }
    return nearest;
  }

  /** A sphere about everything that is drawn, for shadows. */
  bounds(): Sphere {
    const box = new Box3();
    for (const object of this.group.children) {
      if (!(object instanceof Mesh) || !object.visible) continue;
      const geometry = object.geometry as BufferGeometry;
      if (!geometry.boundingBox) geometry.computeBoundingBox();
      box.union(geometry.boundingBox!.clone().applyMatrix4(object.matrixWorld));
    }
    return box.isEmpty() ? new Sphere(new Vector3(), 5) : box.getBoundingSphere(new Sphere());
  }

  private add(row: OutlineRow): void {
    const objects = this.objects(row);
    const seen = this.seen(row);
    for (const object of objects) {
      object.matrixAutoUpdate = false;
      object.matrixWorldAutoUpdate = false;
      object.userData['id'] = row.id;
      object.userData['locked'] = row.locked;
      object.visible = seen;
      this.group.add(object);
    }
    const drawn = { slot: row.slot, objects, key: row.id };
    this.drawn.set(row.id, drawn);
    this.bySlot.set(row.slot, drawn);
  }

  /** Off itself, or off with what carries it; the core says why in words. */
  seenOf: (row: OutlineRow) => boolean = () => true;

  private seen(row: OutlineRow): boolean {
    return this.seenOf(row);
  }

  private objects(row: OutlineRow): Object3D[] {
    if (row.kind === 'group') return [];
    if (row.kind === 'light') return [new LineSegments(lampGeometry, this.lines('#a8761f'))];
    if (row.kind === 'camera') return [new LineSegments(cameraGeometry, this.lines('#566160'))];
    const look = session.core.look(row.id);
    if (!look) return [];
    const materials = look.materials ?? (look.material ? [look.material] : []);
    const parts =
      row.geometry === null
        ? this.geometry(JSON.stringify(look.shape), () => session.core.shapeGeometry(row.id))
        : this.geometry(row.geometry, () => session.geometry.get(row.geometry!) ?? null);
    return parts.map((part) => {
      const material = materials[part.slot] ?? materials[0];
      if (part.mode === 'points')
        return new Points(
          part.geometry,
          new PointsMaterial({ color: material?.color, size: 3, sizeAttenuation: false }),
        );
      if (part.mode === 'lines') return new LineSegments(part.geometry, this.lines(material?.color ?? '#566160'));
      const mesh = new Mesh(part.geometry, this.material(material, part.geometry.hasAttribute('color')));
      mesh.castShadow = true;
      mesh.receiveShadow = true;
      mesh.raycast = acceleratedRaycast;
      return mesh;
    });
  }

  private geometry(key: string, bytes: () => Uint8Array | null): DrawnPart[] {
    let parts = this.geometries.get(key);
    if (!parts) {
      const read = bytes();
      if (!read) return [];
      parts = readGeometry(read);
      for (const part of parts) if (part.mode === 'triangles') computeBoundsTree.call(part.geometry);
      this.geometries.set(key, parts);
    }
    return parts;
  }

  private material(material: Material | undefined, coloured: boolean): ThreeMaterial {
    const key = `${material?.color}|${material?.emissive}|${material?.opacity}|${material?.doubleSided}|${coloured}`;
    let made = this.materials.get(key);
    if (!made) {
      // Clay: everything matt, in its own colour.
      made = new MeshLambertMaterial({
        color: new Color(material?.color ?? '#cfc8bb'),
        emissive: new Color(material?.emissive ?? '#000000'),
        vertexColors: coloured,
        transparent: (material?.opacity ?? 1) < 1,
        opacity: material?.opacity ?? 1,
        side: DoubleSide,
        shadowSide: FrontSide,
      });
      this.materials.set(key, made);
    }
    return made;
  }

  private lines(color: string): ThreeMaterial {
    const key = `line|${color}`;
    let made = this.materials.get(key);
    if (!made) {
      made = new LineBasicMaterial({ color: new Color(color) });
      this.materials.set(key, made);
    }
    return made;
  }

  private placeOne(drawn: Drawn, w: Float64Array, origin: Vector3): void {
    const at = drawn.slot * 12;
    // The origin is taken off before the numbers lose half their digits on the way to the graphics card.
    this.scratch.set(
      w[at]!, w[at + 1]!, w[at + 2]!, w[at + 3]! - origin.x,
      w[at + 4]!, w[at + 5]!, w[at + 6]!, w[at + 7]! - origin.y,
      w[at + 8]!, w[at + 9]!, w[at + 10]!, w[at + 11]! - origin.z,
      0, 0, 0, 1,
    ); // prettier-ignore
    for (const object of drawn.objects) object.matrixWorld.copy(this.scratch);
  }
}

function fromLines(lines: number[][]): BufferGeometry {
  return new BufferGeometry().setFromPoints(lines.map(([x, y, z]) => new Vector3(x, y, z)));
}

/** A lamp: three crossed rays and a line to where it shines. */
function buildLamp(): BufferGeometry {
  const r = 0.12;
  const lines = [
    [-r, 0, 0], [r, 0, 0], [0, -r, 0], [0, r, 0], [0, 0, -2.4 * r], [0, 0, r],
    [-0.6 * r, -0.6 * r, 0], [0.6 * r, 0.6 * r, 0], [-0.6 * r, 0.6 * r, 0], [0.6 * r, -0.6 * r, 0],
  ]; // prettier-ignore
  return fromLines(lines);
}

/** A camera: a small pyramid that opens toward what it sees, with a stroke for up. */
function buildCamera(): BufferGeometry {
  const [w, h, d] = [0.16, 0.1, 0.28];
  const corners = [[-w, -h, -d], [w, -h, -d], [w, h, -d], [-w, h, -d]]; // prettier-ignore
  const lines: number[][] = [];
  corners.forEach((corner, i) => lines.push([0, 0, 0], corner, corner, corners[(i + 1) % 4]!));
  lines.push([0, h, -d], [0, h * 1.7, -d]);
  return fromLines(lines);
}
