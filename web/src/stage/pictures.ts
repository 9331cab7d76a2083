import { BufferGeometry, Color, Group, Matrix4, Sphere, Vector3, Box3 } from 'three';
import { computeBoundsTree, disposeBoundsTree } from 'three-mesh-bvh';
import type { DrawnAs, Look, Surface } from '../core/answers';
import type { OutlineRow } from '../core/outline';
import { readGeometry, type DrawnPart } from '../core/geometry';
import { session } from '../acts/session';
import { Batches, type Batch, type Member } from './batches';
import { edgesOf } from './edges';
import { Materials } from './shading';
import { type Shading } from '../state/shadings';
import { Spheres } from './spheres';
import { take } from './inked';

/** One part of a node at its place in a batch. */
export class Entry implements Member {
  at = 0;

  constructor(
    readonly id: string,
    readonly part: DrawnPart,
    readonly material: string,
    readonly tint: string | null,
    public batch: Batch,
  ) {}

  moved(batch: Batch, to: number): void {
    this.batch = batch;
    this.at = to;
  }
}

/** What is seen of a node: how it is drawn, faded or not, and in which colour instead of its own. */
export interface SeenAs {
  seen: boolean;
  /** Seen in the final picture. */
  final: boolean;
  how: DrawnAs;
  faded: boolean;
  tint: string | null;
}

/** A node as drawn. All its parts share one world matrix, which comes from the core. */
export interface Drawn extends SeenAs {
  id: string;
  slot: number;
  row: OutlineRow;
  entries: Entry[];
  /** A sphere about all its parts, in its own frame. */
  sphere: Sphere;
  /** Its place among the spheres. */
  at: number;
}

/** Frees a geometry and what was made of it: its index for picking, the lines of its wire picture. */
function disposePart(part: DrawnPart): void {
  disposeBoundsTree.call(part.geometry);
  part.geometry.dispose();
  part.edges?.dispose();
}

/** Draws nodes at the places that the core says; what has one geometry and one look is drawn in one call. */
export class Pictures {
  readonly group = new Group();
  readonly materials: Materials;
  private readonly batches: Batches;
  private readonly drawn = new Map<string, Drawn>();
  private readonly bySlot = new Map<number, Drawn>();
  private readonly geometries = new Map<string, DrawnPart[]>();
  private readonly symbols: { lamp: DrawnPart; camera: DrawnPart };
  /** Spheres about the nodes, less the origin. */
  readonly spheres = new Spheres<Drawn>();
  private readonly scratch = new Matrix4();
  private readonly origin = new Vector3();
  private readonly far = new Vector3();
  private sphere: Sphere | null = null;
  /** Counts what changes where things stand or how they are seen; what is kept of them holds until the next. */
  version = 0;
  private hidden: string | null = null;
  /** How many batches there were when they were last looked through. */
  private swept = 0;
  private asPicture = false;
  /** What is seen of a node, and how. */
  sightOf: (row: OutlineRow) => SeenAs = () => ({ seen: true, final: true, how: 'full', faded: false, tint: null });
  /** What faded things fade to. */
  fade = '#efe8da';

  constructor(changed: () => void) {
    this.group.matrixAutoUpdate = this.group.matrixWorldAutoUpdate = false;
    this.materials = new Materials((hash) => session.fetchPicture(hash), changed);
    this.batches = new Batches(this.materials, (batch) => this.group.add(...batch.objects));
    const symbol = (geometry: BufferGeometry): DrawnPart => ({ mode: 'lines', slot: 0, geometry });
    this.symbols = { lamp: symbol(lamp()), camera: symbol(camera()) };
  }

  get nodes(): IterableIterator<Drawn> {
    return this.drawn.values();
  }

  /** All that is drawn, batch by batch. */
  drawnBatches(): Iterable<Batch> {
    return this.batches.all;
  }

  /** Once the pictures of materials that have been asked for are there. */
  texturesReady(): Promise<void> {
    return this.materials.texturesReady();
  }

  /** Keeps the pictures of materials that are shown now until they are released. */
  holdTextures(): () => void {
    return this.materials.holdTextures();
  }

  get(id: string): Drawn | undefined {
    return this.drawn.get(id);
  }

  /** Draws all nodes anew. */
  rebuild(rows: OutlineRow[], origin: Vector3): void {
    this.group.clear();
    this.batches.clear();
    this.drawn.clear();
    this.bySlot.clear();
    this.spheres.clear();
    this.readMaterials();
    this.addAll(rows);
    this.place(null, origin);
    this.sweep();
  }

  /** Lets go of what no node of the scene is drawn with any more: batches, geometry with its index, materials, textures. */
  private sweep(): void {
    this.swept = this.batches.size;
    for (const batch of this.batches.sweep()) this.group.remove(...batch.objects);
    const inUse = new Set<BufferGeometry>();
    for (const { entries } of this.drawn.values()) for (const { part } of entries) inUse.add(part.geometry);
    for (const [key, parts] of this.geometries) {
      if (parts.some((p) => inUse.has(p.geometry) || (p.edges && inUse.has(p.edges)))) continue;
      for (const part of parts) disposePart(part);
      this.geometries.delete(key);
    }
    this.materials.keep([...this.batches.all].map((batch) => batch.look));
  }

  /** Draws some nodes anew, which may have come, gone or changed their look. */
  update(ids: string[], byId: Map<string, OutlineRow>, origin: Vector3): void {
    for (const id of ids) {
      const old = this.drawn.get(id);
      if (!old) continue;
      for (const entry of old.entries) entry.batch.remove(entry.at);
      if (old.entries.length > 0) this.spheres.remove(old);
      this.drawn.delete(id);
      this.bySlot.delete(old.slot);
    }
    this.addAll(ids.map((id) => byId.get(id)).filter((row) => row !== undefined));
    this.place(null, origin);
    // Colours that are tried one after the other leave empty batches behind.
    if (this.batches.size > 2 * this.swept + 64) this.sweep();
  }

  /** Takes over what materials are like, some or all; tells which nodes have to be drawn anew for it. */
  readMaterials(some: string[] | null = null): string[] {
    const { core } = session;
    const anew: string[] = [];
    const put = (id: string, surface: Surface | null) => {
      if (this.materials.put(id, surface)) anew.push(id);
    };
    if (some) for (const id of some) put(id, core.materialOf(id)?.surface ?? null);
    else {
      const all = core.materials();
      const there = new Set(all.map((m) => m.id));
      for (const id of this.materials.ids) if (!there.has(id)) put(id, null);
      for (const { id, surface } of all) put(id, surface);
    }
    return anew.length === 0 ? [] : [...new Set(anew.flatMap((id) => core.materialUsers(id)))];
  }

  /** How far away what lets light through stands from an eye: the farthest is drawn first. */
  sort(eye: Matrix4): void {
    for (const batch of this.batches.all) {
      if (!batch.alone || batch.count === 0) continue;
      const { array } = batch;
      const s = batch.mirrored ? -1 : 1;
      batch.away = this.far.set(s * array[12]!, array[13]!, array[14]!).applyMatrix4(eye).z;
    }
  }

  /** Follows what is seen now; a switch of a collection looks at every node once. */
  sight(byId: Map<string, OutlineRow>, origin: Vector3): void {
    this.version++;
    const worlds = session.core.worlds();
    const anew: string[] = [];
    this.origin.copy(origin);
    this.sphere = null;
    for (const drawn of this.drawn.values()) {
      const row = byId.get(drawn.id);
      if (!row) continue;
      drawn.row = row;
      const { seen, final, how, faded, tint } = this.sightOf(row);
      if (how !== drawn.how || faded !== drawn.faded || tint !== drawn.tint) anew.push(drawn.id);
      else if (seen !== drawn.seen || final !== drawn.final) {
        Object.assign(drawn, { seen, final });
        this.show(drawn, worlds);
      }
    }
    if (anew.length > 0) this.update(anew, byId, origin);
  }

  /** Takes world matrices over from the core's memory: of some slots, or of all. */
  place(slots: Int32Array | null, origin: Vector3): void {
    this.version++;
    this.origin.copy(origin);
    const worlds = session.core.worlds();
    if (slots === null) {
      this.sphere = null;
      for (const drawn of this.drawn.values()) this.placeOne(drawn, worlds, false);
      for (const batch of this.batches.all) batch.touchAll();
    } else {
      for (const slot of slots) {
        const drawn = this.bySlot.get(slot);
        if (drawn) this.placeOne(drawn, worlds, true);
      }
    }
  }

  /** Sets materials and edges for the view that is drawn next. */
  shade(shading: Shading): void {
    for (const batch of this.batches.all) batch.shade(shading, (wires) => this.group.add(wires));
  }

  /** Leaves one node out of the next picture: nobody sees the camera that they look through. */
  hide(id: string | null): void {
    if (id === this.hidden) return;
    const [before, now] = [this.hidden, id].map((n) => (n === null ? undefined : this.drawn.get(n)));
    this.hidden = id;
    for (const drawn of [before, now]) if (drawn) this.placeOne(drawn, session.core.worlds(), true);
  }

  /** The next picture shows what the final picture does, without lamps and cameras; else what is seen while working. */
  showFinal(on: boolean): void {
    if (on === this.asPicture) return;
    const before = [...this.drawn.values()].map((drawn) => this.visible(drawn));
    this.asPicture = on;
    const worlds = session.core.worlds();
    [...this.drawn.values()].forEach((drawn, i) => {
      if (this.visible(drawn) !== before[i]) this.show(drawn, worlds);
    });
  }

  private visible(drawn: Drawn): boolean {
    if (drawn.id === this.hidden) return false;
    return this.asPicture ? drawn.final && drawn.row.kind !== 'light' && drawn.row.kind !== 'camera' : drawn.seen;
  }

  /** Where a node stands now, less the origin, seen or not. */
  matrix(drawn: Drawn, into: Matrix4): Matrix4 {
    return this.read(session.core.worlds(), drawn.slot * 12, into);
  }

  /** A sphere about everything that is seen, less the origin; what is being dragged may have left it. */
  bounds(): Sphere {
    if (this.sphere) return this.sphere;
    const box = new Box3();
    const one = new Box3();
    // Of very many, the spheres about them are near enough.
    const many = this.spheres.members.length > 2000;
    if (many) this.spheres.extend(box, (drawn) => drawn.seen);
    for (const drawn of many ? [] : this.drawn.values()) {
      if (!drawn.seen || drawn.entries.length === 0) continue;
      this.matrix(drawn, this.scratch);
      for (const { part } of drawn.entries) {
        if (!part.geometry.boundingBox) part.geometry.computeBoundingBox();
        box.union(one.copy(part.geometry.boundingBox!).applyMatrix4(this.scratch));
      }
    }
    this.sphere = box.isEmpty() ? new Sphere(new Vector3().sub(this.origin), 5) : box.getBoundingSphere(new Sphere());
    return this.sphere;
  }

  private partsOf(row: OutlineRow, look: Look | undefined): DrawnPart[] {
    if (row.kind === 'light') return [this.symbols.lamp];
    if (row.kind === 'camera') return [this.symbols.camera];
    if (!look) return [];
    const made = () => session.core.geometryOf(row.id);
    if (row.geometry === null) return this.geometry(look.made, made);
    if (look.normals || look.lies !== null) return this.geometry(`${row.geometry}|${look.made}`, made);
    return this.geometry(row.geometry, () => session.geometry.get(row.geometry!) ?? null);
  }

  private addAll(rows: OutlineRow[]): void {
    const shaped = rows.filter((row) => row.kind === 'shape' || row.kind === 'mesh');
    const looks = session.core.looks(shaped.map((row) => row.id));
    const lookOf = new Map(shaped.map((row, i) => [row.id, looks[i]]));
    for (const row of rows) this.add(row, lookOf.get(row.id));
  }

  private add(row: OutlineRow, look: Look | undefined): void {
    const drawn: Drawn = {
      id: row.id,
      slot: row.slot,
      row,
      ...this.sightOf(row),
      entries: [],
      sphere: new Sphere(),
      at: -1,
    };
    const materials = look?.materials ?? [];
    const symbol = row.kind === 'light' || row.kind === 'camera';
    for (const part of this.drawnAs(this.partsOf(row, look), drawn.how)) {
      const material = materials[part.slot] ?? '';
      const tint = this.tinted(material, drawn);
      const batch = this.batches.of(part, material, tint, false, symbol, row.id);
      const entry = new Entry(row.id, part, material, tint, batch);
      entry.at = batch.add(entry);
      drawn.entries.push(entry);
    }
    if (drawn.entries.length > 0) {
      drawn.sphere = aroundAll(drawn.entries);
      this.spheres.add(drawn);
    }
    this.drawn.set(row.id, drawn);
    this.bySlot.set(row.slot, drawn);
  }

  /** Members may stand in the colour of their collection; faded things keep their form and lose most of their colour. */
  private tinted(material: string, { faded, tint }: SeenAs): string | null {
    if (!faded && tint === null) return null;
    const full = take(new Color(), tint ?? this.materials.surfaceOf(material).color);
    return `#${(faded ? full.lerp(new Color(this.fade), 0.82) : full).getHexString()}`;
  }

  /** The parts as they are, as their edges, or as the box about all of them. */
  private drawnAs(parts: DrawnPart[], how: DrawnAs): DrawnPart[] {
    const solid = parts.filter((p) => p.mode === 'triangles');
    if (how === 'full' || solid.length === 0) return parts;
    const key = `${how} ${solid.map((p) => p.geometry.uuid).join()}`;
    let made = this.geometries.get(key);
    if (!made) {
      made =
        how === 'wire'
          ? solid.map((p) => ({ mode: 'lines', slot: p.slot, geometry: (p.edges ??= edgesOf(p.geometry)) }))
          : [{ mode: 'lines', slot: 0, geometry: boxAround(solid) }];
      this.geometries.set(key, made);
    }
    return made;
  }

  private geometry(key: string, bytes: () => Uint8Array | null): DrawnPart[] {
    let parts = this.geometries.get(key);
    if (!parts) {
      const read = bytes();
      if (!read || read.length === 0) return [];
      parts = readGeometry(read);
      for (const part of parts) if (part.mode === 'triangles') computeBoundsTree.call(part.geometry);
      this.geometries.set(key, parts);
    }
    return parts;
  }

  /** Shows or hides a node that has not moved. */
  private show(drawn: Drawn, worlds: Float64Array): void {
    const shown = this.visible(drawn);
    if (shown && drawn.entries.length > 0) this.read(worlds, drawn.slot * 12, this.scratch);
    for (const { batch, at } of drawn.entries) {
      const { array } = batch;
      const m = this.scratch.elements;
      for (let k = 0; k < 16; k++) array[16 * at + k] = shown ? (batch.mirrored && k % 4 === 0 ? -m[k]! : m[k]!) : 0;
      batch.touch(at);
    }
  }

  /** Writes the matrix of a node into its places, straight from the core's memory: a drag does so at every picture. */
  private placeOne(drawn: Drawn, worlds: Float64Array, touch: boolean): void {
    const { entries } = drawn;
    if (entries.length === 0) return;
    const at = drawn.slot * 12;
    const { x, y, z } = this.origin;
    const [a, b, c] = [worlds[at]!, worlds[at + 1]!, worlds[at + 2]!];
    const [d, e, f] = [worlds[at + 4]!, worlds[at + 5]!, worlds[at + 6]!];
    const [g, h, i] = [worlds[at + 8]!, worlds[at + 9]!, worlds[at + 10]!];
    // The origin is taken off before the numbers lose half their digits on the way to the graphics card.
    const [tx, ty, tz] = [worlds[at + 3]! - x, worlds[at + 7]! - y, worlds[at + 11]! - z];
    const mirrored = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g) < 0;
    this.scratch.set(a, b, c, tx, d, e, f, ty, g, h, i, tz, 0, 0, 0, 1);
    this.spheres.place(drawn, drawn.sphere, this.scratch);
    const shown = this.visible(drawn);
    // The whole batch is mirrored again by its own matrix.
    const s = mirrored ? -1 : 1;
    for (let k = 0; k < entries.length; k++) {
      const entry = entries[k]!;
      if (entry.batch.mirrored !== mirrored) this.turnRound(entry, mirrored);
      const into = entry.batch.array;
      const o = 16 * entry.at;
      if (shown) {
        into[o] = s * a;
        into[o + 1] = d;
        into[o + 2] = g;
        into[o + 3] = 0;
        into[o + 4] = s * b;
        into[o + 5] = e;
        into[o + 6] = h;
        into[o + 7] = 0;
        into[o + 8] = s * c;
        into[o + 9] = f;
        into[o + 10] = i;
        into[o + 11] = 0;
        into[o + 12] = s * tx;
        into[o + 13] = ty;
        into[o + 14] = tz;
        into[o + 15] = 1;
      } else into.fill(0, o, o + 16);
      if (touch) entry.batch.touch(entry.at);
    }
  }

  /** Mirrored objects are drawn in batches of their own. */
  private turnRound(entry: Entry, mirrored: boolean): void {
    const kind = this.drawn.get(entry.id)?.row.kind;
    entry.batch.remove(entry.at);
    const symbol = kind === 'light' || kind === 'camera';
    entry.batch = this.batches.of(entry.part, entry.material, entry.tint, mirrored, symbol, entry.id);
    entry.at = entry.batch.add(entry);
  }

  private read(w: Float64Array, at: number, into: Matrix4): Matrix4 {
    // The origin is taken off before the numbers lose half their digits on the way to the graphics card.
    return into.set(
      w[at]!, w[at + 1]!, w[at + 2]!, w[at + 3]! - this.origin.x,
      w[at + 4]!, w[at + 5]!, w[at + 6]!, w[at + 7]! - this.origin.y,
      w[at + 8]!, w[at + 9]!, w[at + 10]!, w[at + 11]! - this.origin.z,
      0, 0, 0, 1,
    ); // prettier-ignore
  }
}

function boxAround(parts: DrawnPart[]): BufferGeometry {
  const box = new Box3();
  for (const { geometry } of parts) {
    if (!geometry.boundingBox) geometry.computeBoundingBox();
    box.union(geometry.boundingBox!);
  }
  const { min, max } = box;
  const corner = (i: number) => [i & 1 ? max.x : min.x, i & 2 ? max.y : min.y, i & 4 ? max.z : min.z];
  const edges = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((i) =>
    [1, 2, 4].filter((b) => !(i & b)).flatMap((b) => [corner(i), corner(i | b)]),
  );
  return fromLines(edges);
}

function aroundAll(entries: Entry[]): Sphere {
  const spheres = entries.map(({ part }) => {
    if (!part.geometry.boundingSphere) part.geometry.computeBoundingSphere();
    return part.geometry.boundingSphere!;
  });
  return spheres.reduce((all, one) => all.union(one), spheres[0]!.clone());
}

function fromLines(lines: number[][]): BufferGeometry {
  return new BufferGeometry().setFromPoints(lines.map(([x, y, z]) => new Vector3(x, y, z)));
}

/** A lamp: three crossed rays and a line to where it shines. */
function lamp(): BufferGeometry {
  const r = 0.12;
  const lines = [
    [-r, 0, 0], [r, 0, 0], [0, -r, 0], [0, r, 0], [0, 0, -2.4 * r], [0, 0, r],
    [-0.6 * r, -0.6 * r, 0], [0.6 * r, 0.6 * r, 0], [-0.6 * r, 0.6 * r, 0], [0.6 * r, -0.6 * r, 0],
  ]; // prettier-ignore
  return fromLines(lines);
}

/** A camera: a small pyramid that opens toward what it sees, with a stroke for up. */
function camera(): BufferGeometry {
  const [w, h, d] = [0.16, 0.1, 0.28];
  const corners = [[-w, -h, -d], [w, -h, -d], [w, h, -d], [-w, h, -d]]; // prettier-ignore
  const lines: number[][] = [];
  corners.forEach((corner, i) => lines.push([0, 0, 0], corner, corner, corners[(i + 1) % 4]!));
  lines.push([0, h, -d], [0, h * 1.7, -d]);
  return fromLines(lines);
}
