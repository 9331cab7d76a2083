import { Box3, Matrix4, Sphere, Vector3, type BufferGeometry, type Triangle } from 'three';
import type { MeshBVH } from 'three-mesh-bvh';
import type { SnapAsk } from '../core/pointerMove';
import { get, type PageState } from '../state/store';
import { branchOf } from '../state/branches';
import type { Pixel } from './layer';
import type { Hit } from './picking';
import type { OnStage } from './onStage';
import type { View } from './view';

/** More triangles than this near one pointer are not proposed: the core looks at each of them. */
const most = 64;

const [matrix, inverse] = [new Matrix4(), new Matrix4()];

/** What a drag moves: the picked with all that rides on them; a pivot moves alone. */
export function movedBy(state: PageState): Set<string> {
  return new Set(state.verb === 'pivot' ? [] : branchOf(state, state.selection));
}

/** How the next pointer move snaps. The page's index only proposes what lies near; the core decides. */
export function snapRequest(stage: OnStage, view: View, at: Pixel, moved: Set<string>, next: number): SnapAsk {
  const { snap } = get();
  const near = snap.kinds.some((k) => k !== 'pivot' && k !== 'grid')
    ? proposals(stage, view, at, snap.radius, moved)
    : [];
  return {
    kinds: snap.kinds,
    near,
    radius: snap.radius,
    focal: view.eye.focal,
    grid: stage.spacing,
    source: snap.source,
    turn: snap.turn,
    next,
    from: snap.from,
  };
}

/** The triangles around the pointer, of the few objects that it is on or beside. */
function proposals(stage: OnStage, view: View, at: Pixel, radius: number, moved: Set<string>): SnapAsk['near'] {
  const hits: Hit[] = [];
  for (let k = -1; k < 8; k++) {
    // Over an object four looks around are enough to find what lies beside it.
    if (hits.length > 0 && k % 2 === 1) continue;
    const [dx, dy] = k < 0 ? [0, 0] : [Math.cos((k * Math.PI) / 4) * radius, Math.sin((k * Math.PI) / 4) * radius];
    const hit = stage.pickWithout(view, at.x + dx, at.y + dy, moved);
    if (hit?.face && !hits.some((h) => h.id === hit.id)) hits.push(hit);
  }
  return hits.slice(0, 4).map((hit) => ({
    slot: stage.pictures.get(hit.id)!.slot,
    triangles: trianglesNear(stage, view, hit, view.eye.pixel(hit.point) * radius * 1.6),
  }));
}

/** Triangles of an object around a point that was hit, the hit one first; nine numbers each, in its own frame. */
export function trianglesNear(stage: OnStage, view: View, hit: Hit, reach: number): number[] {
  const drawn = stage.pictures.get(hit.id);
  const found: number[] = hit.face ? hit.face.flatMap((v) => v.toArray()) : [];
  if (!drawn) return found;
  stage.pictures.matrix(drawn, matrix);
  inverse.copy(matrix).invert();
  const centre = hit.point.clone().sub(view.eye.origin).applyMatrix4(inverse);
  // Where the object is stretched, a ball in the world is longer in its own frame.
  const sphere = new Sphere(centre, reach * inverse.getMaxScaleOnAxis());
  const first = found.join();
  for (const { part } of drawn.entries) {
    const bvh =
      part.mode === 'triangles' ? (part.geometry as BufferGeometry & { boundsTree?: MeshBVH }).boundsTree : null;
    bvh?.shapecast({
      intersectsBounds: (box: Box3) => box.intersectsSphere(sphere),
      intersectsTriangle: (triangle: Triangle) => {
        if (found.length >= most * 9) return true;
        if (triangle.closestPointToPoint(sphere.center, new Vector3()).distanceTo(sphere.center) > sphere.radius)
          return false;
        const corners = [triangle.a, triangle.b, triangle.c].flatMap((v) => v.toArray());
        if (corners.join() !== first) found.push(...corners);
        return false;
      },
    });
  }
  return found;
}
