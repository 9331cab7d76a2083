import { BufferAttribute, BufferGeometry, Vector3 } from 'three';

/** How straight two faces must meet for the edge between them to count as lying within one flat face. */
const flat = 0.99999;

interface Edge {
  a: number;
  b: number;
  normal: Vector3;
  longest: boolean;
  hidden: boolean;
}

/**
 * The lines of a wire picture: every edge of the triangles once, without the diagonals that only split flat four-sided faces
 * in two. Vertices at the same place count as one, since normals and texture seams split them.
 */
export function edgesOf(geometry: BufferGeometry): BufferGeometry {
  const position = geometry.getAttribute('position');
  const index = geometry.getIndex();
  const place = samePlaces(position.array as Float32Array, position.count);
  const edges = new Map<number, Edge>();
  const corners = [new Vector3(), new Vector3(), new Vector3()];
  const [u, v] = [new Vector3(), new Vector3()];
  const count = index ? index.count : position.count;
  for (let t = 0; t + 2 < count; t += 3) {
    const at = [0, 1, 2].map((k) => place[index ? index.getX(t + k) : t + k]!);
    corners.forEach((corner, k) => corner.fromBufferAttribute(position, at[k]!));
    const normal = u.subVectors(corners[1]!, corners[0]!).cross(v.subVectors(corners[2]!, corners[0]!)).clone();
    if (normal.lengthSq() === 0) continue;
    normal.normalize();
    const lengths = [0, 1, 2].map((k) => corners[k]!.distanceToSquared(corners[(k + 1) % 3]!));
    for (let k = 0; k < 3; k++) {
      const [a, b] = [at[k]!, at[(k + 1) % 3]!];
      const longest = lengths.every((other, o) => o === k || other < lengths[k]! * (1 - 1e-6));
      const key = Math.min(a, b) * 0x4000000 + Math.max(a, b);
      const known = edges.get(key);
      if (!known) edges.set(key, { a, b, normal, longest, hidden: false });
      else known.hidden = longest && known.longest && known.normal.dot(normal) > flat;
    }
  }
  const lines: number[] = [];
  const source = position.array;
  for (const { a, b, hidden } of edges.values()) {
    if (hidden) continue;
    lines.push(source[3 * a]!, source[3 * a + 1]!, source[3 * a + 2]!);
    lines.push(source[3 * b]!, source[3 * b + 1]!, source[3 * b + 2]!);
  }
  const made = new BufferGeometry();
  made.setAttribute('position', new BufferAttribute(new Float32Array(lines), 3));
  return made;
}

/** For every vertex, the first one that stands at the same place. */
function samePlaces(positions: ArrayLike<number>, count: number): Uint32Array {
  const first = new Map<string, number>();
  const place = new Uint32Array(count);
  for (let i = 0; i < count; i++) {
    const key = `${positions[3 * i]},${positions[3 * i + 1]},${positions[3 * i + 2]}`;
    const known = first.get(key);
    if (known === undefined) first.set(key, i);
    place[i] = known ?? i;
  }
  return place;
}
