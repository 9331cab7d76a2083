import type { Box3, Matrix4, Sphere } from 'three';

/**
 * A sphere about each drawn object on flat memory, so that a ray or a box finds the few that it may meet among very many.
 * An object's place in it changes only when another goes.
 */
export class Spheres<T extends { at: number }> {
  readonly members: T[] = [];
  private numbers = new Float64Array(4 * 64);

  clear(): void {
    this.members.length = 0;
  }

  add(member: T): void {
    member.at = this.members.length;
    this.members.push(member);
    if (4 * this.members.length > this.numbers.length) {
      const grown = new Float64Array(this.numbers.length * 2);
      grown.set(this.numbers);
      this.numbers = grown;
    }
    this.numbers[4 * member.at + 3] = -1;
  }

  remove(member: T): void {
    const last = this.members.pop()!;
    if (last === member) return;
    this.members[member.at] = last;
    this.numbers.copyWithin(4 * member.at, 4 * last.at, 4 * last.at + 4);
    last.at = member.at;
  }

  /** Sets an object's sphere from its own one and where it stands; a matrix's longest column decides the size. */
  place(member: T, own: Sphere, matrix: Matrix4): void {
    const m = matrix.elements;
    const { x, y, z } = own.center;
    const n = this.numbers;
    const at = 4 * member.at;
    n[at] = m[0]! * x + m[4]! * y + m[8]! * z + m[12]!;
    n[at + 1] = m[1]! * x + m[5]! * y + m[9]! * z + m[13]!;
    n[at + 2] = m[2]! * x + m[6]! * y + m[10]! * z + m[14]!;
    const first = m[0]! * m[0]! + m[1]! * m[1]! + m[2]! * m[2]!;
    const second = m[4]! * m[4]! + m[5]! * m[5]! + m[6]! * m[6]!;
    const third = m[8]! * m[8]! + m[9]! * m[9]! + m[10]! * m[10]!;
    // Sheared columns can add up: their squares' sum bounds any stretch.
    const longest = 3 * Math.max(first, second, third);
    n[at + 3] = own.radius * Math.sqrt(Math.min(longest, first + second + third));
  }

  /** Widens a box by the spheres of some objects. */
  extend(box: Box3, counts: (member: T) => boolean): void {
    const n = this.numbers;
    const { min, max } = box;
    for (let i = 0, at = 0; i < this.members.length; i++, at += 4) {
      if (!counts(this.members[i]!)) continue;
      const [x, y, z, r] = [n[at]!, n[at + 1]!, n[at + 2]!, n[at + 3]!];
      if (r < 0) continue;
      min.set(Math.min(min.x, x - r), Math.min(min.y, y - r), Math.min(min.z, z - r));
      max.set(Math.max(max.x, x + r), Math.max(max.y, y + r), Math.max(max.z, z + r));
    }
  }

  /**
   * The objects whose spheres a ray meets, with the distance at which it enters, nearest first.
   * @param grow By how much a sphere is widened: something fixed, and something for each unit of distance.
   */
  along(
    origin: { x: number; y: number; z: number },
    way: { x: number; y: number; z: number },
    grow: { fixed: number; perDistance: number },
  ): { member: T; enters: number }[] {
    const found: { member: T; enters: number }[] = [];
    const n = this.numbers;
    for (let i = 0, at = 0; i < this.members.length; i++, at += 4) {
      const own = n[at + 3]!;
      if (own < 0) continue;
      const [x, y, z] = [n[at]! - origin.x, n[at + 1]! - origin.y, n[at + 2]! - origin.z];
      const along = x * way.x + y * way.y + z * way.z;
      const radius = own + grow.fixed + grow.perDistance * Math.max(0, along);
      if (along < -radius) continue;
      const beside = x * x + y * y + z * z - along * along;
      if (beside > radius * radius) continue;
      found.push({ member: this.members[i]!, enters: along - radius });
    }
    return found.sort((a, b) => a.enters - b.enters);
  }

  /** The objects whose spheres are not wholly outside one of some planes (x, y, z, w; positive inside), and whether they are wholly inside all. */
  *within(planes: { x: number; y: number; z: number; w: number }[]): Iterable<{ member: T; inside: boolean }> {
    const n = this.numbers;
    for (let i = 0, at = 0; i < this.members.length; i++, at += 4) {
      const radius = n[at + 3]!;
      if (radius < 0) continue;
      let inside = true;
      let outside = false;
      for (const p of planes) {
        const height = p.x * n[at]! + p.y * n[at + 1]! + p.z * n[at + 2]! + p.w;
        if (height < -radius) outside = true;
        if (height < radius) inside = false;
      }
      if (!outside) yield { member: this.members[i]!, inside };
    }
  }
}
