/**
 * The core in the page: the exports of src/Browser with types. Every placement comes from here; TypeScript computes none.
 * Small things go as JSON, world matrices are read in place from the core's memory.
 */

export interface Refusal {
  refusal: string;
  detail: string;
}

export type Vec3 = [number, number, number];
export type EulerOrder = 'XYZ' | 'XZY' | 'YXZ' | 'YZX' | 'ZXY' | 'ZYX';
export type NodeKind = 'shape' | 'mesh' | 'group' | 'light' | 'camera' | 'mark' | 'collection';
/** How a node is drawn in the working view. */
export type DrawnAs = 'full' | 'wire' | 'box';
export type SnapKind = 'vertex' | 'pivot' | 'corner' | 'edgeMiddle' | 'edge' | 'grid' | 'face';
export type Channel = 'position' | 'rotation' | 'scale' | 'size';

export interface Placement {
  position: Vec3;
  rotation: Vec3;
  order: EulerOrder;
  scale: Vec3;
  shear: Vec3;
  pivot: Vec3;
  pivotTurn: Vec3;
  takes?: { position: boolean; rotation: boolean; scale: boolean };
}

export interface Material {
  color: string;
  roughness: number;
  metalness: number;
  opacity: number;
  emissive: string;
  doubleSided: boolean;
  textures?: { channel: string; image: string }[];
}

export interface Normals {
  how: 'facets' | 'smooth';
  angle: number;
}

export interface Shape {
  type: string;
  size?: number[];
  radius?: number;
  topRadius?: number;
  height?: number;
  tube?: number;
  inner?: number;
  segments?: number;
  rings?: number;
  sides?: number;
  divisions?: number;
  caps?: boolean;
}

export interface Bounds {
  low: Vec3;
  high: Vec3;
}

/** What an object looks like, apart from where it stands; many share one. */
export interface Look {
  shape: unknown;
  geometry: string | null;
  normals: unknown;
  materials: Material[];
  /** A word for the triangles that the core makes for it. */
  made: string;
}

export interface NodeData {
  id: string;
  name: string;
  kind: NodeKind;
  parent: string | null;
  rank: number;
  placement: Placement;
  shape?: Shape;
  geometry?: string;
  normals?: Normals;
  material?: Material;
  materials?: Material[];
  camera?: { projection: 'perspective' | 'parallel'; fov: number; height: number; near: number; far: number };
  light?: {
    type: 'point' | 'directional' | 'spot';
    color: string;
    intensity: number;
    range?: number;
    innerCone?: number;
    outerCone?: number;
  };
  switches: { working: boolean; final: boolean; locked: boolean; drawn?: DrawnAs };
  collections?: string[];
  shares?: string;
  label?: { color?: string; note?: string; closed?: boolean };
}

/** What stands beside nodes: a collection. */
export interface EntityData {
  id: string;
  kind: 'collection';
  name: string;
  parent: string | null;
  rank: number;
  switches: { working: boolean; final: boolean; locked: boolean; drawn?: DrawnAs };
  label?: { color?: string; note?: string };
  rule?: Rule;
}

/** What makes nodes members of a collection by themselves. */
export interface Rule {
  name?: string;
  kind?: NodeKind;
  material?: string;
  under?: string;
}

export interface NodeAnswer {
  node: NodeData;
  world: number[];
  pivotInWorld: Vec3;
  bounds: { low: Vec3; high: Vec3 } | null;
  liningUp: number;
  /** What carries it and is scaled unevenly, where it is sheared. */
  shearedBy: string | null;
  /** Which of the 27 points of its bounds the pivot stands on. */
  anchor: Vec3 | null;
}

export interface Stale {
  worlds: boolean;
  /** What came, went or changed its seat. */
  outline: boolean;
  /** Lines of the tree that say something else than before. */
  rows: string[];
  looks: string[];
}

export interface Reading {
  amount: string;
  from: string;
  to: string;
  warning: string | null;
}

export interface Tried {
  reading: Reading;
  amount: Vec3;
  refused: Refusal | null;
  /** What the trial makes of the lead. */
  lead: { placement: Placement; pivotInWorld: Vec3; liningUp: number } | null;
  caught: Caught | null;
}

/** What a drag snapped to. */
export interface Caught {
  kind: SnapKind;
  words: string;
  point: Vec3;
  normal: Vec3 | null;
  /** How many could be caught here. */
  inReach: number;
}

/** How a drag snaps, with what lies near the pointer; the core decides. */
export interface SnapRequest {
  kinds: SnapKind[];
  near: { node: string; triangles: number[] }[];
  radius: number;
  focal: number;
  grid: number;
  source: 'pivot' | 'corner' | 'picked';
  turn: boolean;
  next: number;
  from?: Vec3;
}

/** Values that several objects have in common; null where they differ. */
export type Common = Record<Channel, (number | null)[]> & { order: EulerOrder | null };

/** A shape that is being drawn by eye. */
export interface DrawnShape {
  /** Of its bounds, three numbers each; the four of the footprint first. */
  corners: number[];
  words: string;
  hasHeight: boolean;
  edit?: object;
}

/** A pivot that lies outside what it turns. */
export interface StrayPivot {
  node: string;
  away: number;
  far: boolean;
}

export interface Kept {
  ticket: number;
  sentence: string;
  edits: unknown[];
  empty: boolean;
  stale: Stale;
}

export interface Heard {
  stale: Stale;
  dropped: Refusal[];
  /** What became of what is being tried; null where nothing is. */
  ongoing: Ongoing | null;
}

/** What is being tried, after the scene has changed under it. */
export interface Ongoing {
  /** It goes on with its last amount; else it has ended. */
  goes: boolean;
  said: string | null;
  tried: Tried | null;
}

export interface Frame {
  centre: Vec3;
  axes: number[];
  warning: string | null;
}

export interface ServerStep {
  revision: number;
  changed: NodeData[];
  removed: string[];
  /** What was written, and what is gone, beside nodes; an answer of a former version has neither. */
  entities?: EntityData[];
  gone?: { kind: string; id: string }[];
  ticket: number | null;
}

/** The lens of a camera of the scene. */
export interface Lens {
  projection: 'perspective' | 'parallel';
  /** Vertical, degrees. */
  fov: number;
  /** Metres, for parallel projection. */
  height: number;
  /** Width over height of the final picture. */
  aspect: number;
}

/** Where a node stood at another step of the history. */
export interface Shadow {
  id: string;
  world: number[];
  from: Vec3;
  to: Vec3;
}

/** Why a node is not seen, and the switch that would show it. */
export interface Reason {
  text: string;
  final: boolean;
  link: string;
  switch: string;
}

/** Whether a node is seen, why not, and the collections that it is in. */
export interface SeenAnswer {
  working: boolean;
  final: boolean;
  reasons: Reason[];
  collections: { id: string; byRule: boolean }[];
}

/** What edits would do before they are made. */
/** A typed amount: what it does, how much, and what that leads to. */
export interface Understood {
  mode: 'set' | 'add' | 'multiply';
  amount: number;
  value: number;
}

export interface Foreseen {
  /** What is no copy: the eight corners of each, one after the other. */
  added: number[][];
  /** Copies that would be made; from where, unless they ride on another one. */
  ghosts: { id: string; world: number[]; from?: Vec3; to: Vec3 }[];
  foretold: string | null;
}

/** The colours of the collections, and which of them each slot has; −1: none. */
export interface CollectionColors {
  palette: string[];
  of: number[];
}

/** What is seen of a node, by the bits of its byte. */
export const sightBits = { working: 1, final: 2, locked: 4, drawn: 24, leftOut: 32 } as const;

/** Figures that page and core share; the core says them. */
export interface Limits {
  /** How many objects one step makes at most. */
  copies: number;
  /** How many are picked at least to be spread. */
  spread: number;
  /** Nearer than this, in degrees, two rotation axes are said to line up. */
  linesUpBelow: number;
  /** Characters of a name, and of a note. */
  name: number;
  note: number;
  /** The units that a scene can be shown in, and the metres of each. */
  units: Record<string, number>;
}

interface Exports {
  Limits(): string;
  Load(scene: Uint8Array): string;
  Open(): string;
  KnownGeometry(hash: string): Uint8Array;
  SightAddress(): number;
  CollectionColors(): string;
  OutlineOf(ids: string): string;
  Isolate(ids: string, withBranch: boolean): void;
  WhySeen(id: string): string;
  MembersOf(id: string, withInner: boolean): string;
  RuleInWords(id: string): string;
  SharingWith(id: string): string;
  Foresee(edits: string): string;
  NamesAfter(edit: string, most: number): string;
  CopyAsText(ids: string): string;
  Tops(ids: string): string;
  UsualStep(ids: string): number;
  TopsOfText(text: string): string;
  AddGeometry(hash: string, bytes: Uint8Array): void;
  WorldsAddress(): number;
  ChangedAddress(): number;
  ChangedCount(): number;
  SlotCount(): number;
  Sweep(): void;
  Digest(): string;
  Outline(): string;
  Node(id: string): string;
  Stored(id: string): string;
  LooksOf(ids: string): string;
  GeometryOf(id: string): Uint8Array;
  NormalOf(id: string, corners: number[]): number[];
  CameraView(id: string): string;
  Shadows(nodes: string): string;
  TryEdits(edits: string): string;
  BoundsOf(ids: string): number[];
  FramingOf(ids: string): number[];
  SetComma(comma: boolean): void;
  UsualShape(type: string): string;
  Frame(edit: string, space: string, foretell: boolean): string;
  Begin(edit: string, space: string): string;
  Grab(part: string, axis: number, view: number[], parallel: boolean, size: number, ray: number[]): string;
  DragTo(
    ray: number[],
    fine: boolean,
    step: number,
    onGrid: boolean,
    snap: string,
    triangles: number[],
    counts: number[],
  ): string;
  PivotsOf(ids: string): number[];
  SayLength(metres: number): string;
  DrawShape(type: string, origin: number[], upright: number[], view: number[], parallel: boolean): string;
  DrawTo(ray: number[], step: number, rising: boolean, id: string, name: string): string;
  TryTyped(text: string, to: boolean, x: boolean, y: boolean, z: boolean): string;
  ChannelsOf(ids: string, world: boolean, size: boolean): string;
  StrayPivots(): string;
  PlacementAsText(id: string, channel: string): string;
  PlacementFromText(text: string, ids: string, bare: string): string;
  SurfaceAt(id: string, corners: number[], at: number[], reach: number): string;
  MeanUpright(ids: string, faces: number[]): number[];
  Try(x: number, y: number, z: number): string;
  KeepTrial(): string;
  KeepTrialAsCopy(ids: string): string;
  PutBack(): void;
  KeepEdits(edits: string): string;
  Hear(step: string): string;
  Agree(revision: number, ticket: number, digest: string): boolean;
  Drop(ticket: number): string;
  Revision(): number;
  SetUnit(unit: string): void;
  Understand(text: string, quantity: string, field: boolean, present: number): string;
  AnchorInWords(x: number, y: number, z: number): string;
}

interface Runtime {
  getAssemblyExports(name: string): Promise<{ CalmPivot: { Browser: { Bridge: Exports } } }>;
  getConfig(): { mainAssemblyName: string };
  localHeapViewF64(): Float64Array;
  localHeapViewI32(): Int32Array;
  localHeapViewU16(): Uint16Array;
}

export function isRefusal(answer: unknown): answer is Refusal {
  return typeof answer === 'object' && answer !== null && 'refusal' in answer;
}

/** One line of the tree as the core lists it. */
export interface OutlineRow {
  id: string;
  slot: number;
  parent: string | null;
  kind: NodeKind;
  working: boolean;
  final: boolean;
  locked: boolean;
  drawn: DrawnAs;
  /** A press on a member picks this group. */
  closed: boolean;
  /** A collection with a rule. */
  smart: boolean;
  noted: boolean;
  geometry: string | null;
  /** Nodes with the same word here share their shape. */
  shares: string | null;
  color: string | null;
  /** The collections that it was put into. */
  collections: string[];
  name: string;
}

const drawnAs: DrawnAs[] = ['full', 'wire', 'box'];

export class Core {
  private constructor(
    private readonly runtime: Runtime,
    private readonly api: Exports,
  ) {}

  static async boot(): Promise<Core> {
    const url = new URL(`${import.meta.env.BASE_URL}_framework/dotnet.js`, document.baseURI).href;
    const { dotnet } = (await import(/* @vite-ignore */ url)) as { dotnet: { create(): Promise<Runtime> } };
    const runtime = await dotnet.create();
    const exports = await runtime.getAssemblyExports(runtime.getConfig().mainAssemblyName);
    return new Core(runtime, exports.CalmPivot.Browser.Bridge);
  }

  /** Reads a scene that is to be opened; the open one stays. Tells the hashes of the stored geometry that it uses. */
  load(scene: Uint8Array): { revision: number; geometries: string[] } {
    return JSON.parse(this.api.Load(scene)) as { revision: number; geometries: string[] };
  }

  /** Opens the scene that was loaded. What is being tried goes on where it is the same scene. */
  open(): Heard {
    return JSON.parse(this.api.Open()) as Heard;
  }

  addGeometry(hash: string, bytes: Uint8Array): void {
    this.api.AddGeometry(hash, bytes);
  }

  /** All world matrices, twelve numbers a slot, row by row. Valid until the next call that may allocate: never keep it. */
  worlds(): Float64Array {
    const from = this.api.WorldsAddress() / 8;
    return this.runtime.localHeapViewF64().subarray(from, from + this.api.SlotCount() * 12);
  }

  /** The slots that the last try changed. */
  changed(): Int32Array {
    const from = this.api.ChangedAddress() / 4;
    return this.runtime.localHeapViewI32().subarray(from, from + this.api.ChangedCount());
  }

  sweep(): void {
    this.api.Sweep();
  }

  private known: Limits | null = null;

  get limits(): Limits {
    return (this.known ??= JSON.parse(this.api.Limits()) as Limits);
  }

  /** A short word for all that the core computes from the scene: the server comes to the same, to the bit. */
  digest(): string {
    return this.api.Digest();
  }

  outline(): OutlineRow[] {
    return rowsOf(this.api.Outline());
  }

  /** Some lines of the tree, where these nodes still are. */
  outlineOf(ids: string[]): OutlineRow[] {
    return rowsOf(this.api.OutlineOf(JSON.stringify(ids)));
  }

  /** The colours of the collections that objects belong to. */
  collectionColors(): CollectionColors {
    return JSON.parse(this.api.CollectionColors()) as CollectionColors;
  }

  /** What is seen, sixteen bits a slot; a copy. */
  sight(): Uint16Array {
    const from = this.api.SightAddress() / 2;
    return this.runtime.localHeapViewU16().slice(from, from + this.api.SlotCount());
  }

  isolate(ids: string[], withBranch: boolean): void {
    this.api.Isolate(JSON.stringify(ids), withBranch);
  }

  whySeen(id: string): SeenAnswer | null {
    const text = this.api.WhySeen(id);
    return text ? (JSON.parse(text) as SeenAnswer) : null;
  }

  /** The members of a collection, with those of the collections in it. */
  membersOf(id: string, withInner = true): string[] {
    return JSON.parse(this.api.MembersOf(id, withInner)) as string[];
  }

  ruleInWords(id: string): string {
    return this.api.RuleInWords(id);
  }

  /** What shares the shape of a node, itself included. */
  sharingWith(id: string): string[] {
    return JSON.parse(this.api.SharingWith(id)) as string[];
  }

  foresee(edits: object[]): Foreseen | Refusal {
    return JSON.parse(this.api.Foresee(JSON.stringify(edits))) as Foreseen | Refusal;
  }

  /** The first of the names that a renaming of many would give. */
  namesAfter(edit: object, most: number): string[] | Refusal {
    return JSON.parse(this.api.NamesAfter(JSON.stringify(edit), most)) as string[] | Refusal;
  }

  /** Nodes with all that rides on them, as text. */
  copyAsText(ids: string[]): string | Refusal {
    const answer = JSON.parse(this.api.CopyAsText(JSON.stringify(ids))) as string[] | Refusal;
    return isRefusal(answer) ? answer : answer[0]!;
  }

  /** The objects without those that ride on another of them. */
  tops(ids: string[]): string[] {
    return JSON.parse(this.api.Tops(JSON.stringify(ids))) as string[];
  }

  /** A length that sets a copy beside its original. */
  usualStep(ids: string[]): number {
    return this.api.UsualStep(JSON.stringify(ids));
  }

  /** How many nodes at the top a copied text holds. */
  topsOfText(text: string): { tops: number } | Refusal {
    return JSON.parse(this.api.TopsOfText(text)) as { tops: number } | Refusal;
  }

  /** Geometry that the core knows already; empty: it is to be fetched. */
  knownGeometry(hash: string): Uint8Array {
    return this.api.KnownGeometry(hash);
  }

  node(id: string): NodeAnswer | null {
    const text = this.api.Node(id);
    return text ? (JSON.parse(text) as NodeAnswer) : null;
  }

  /** An object as it is stored. */
  stored(id: string): NodeData | null {
    const text = this.api.Stored(id);
    return text ? (JSON.parse(text) as NodeData) : null;
  }

  /** A collection as stored. */
  collection(id: string): EntityData | null {
    const text = this.api.Stored(id);
    return text ? (JSON.parse(text) as EntityData) : null;
  }

  /** What objects look like, in their order. */
  looks(ids: string[]): (Look | undefined)[] {
    const { distinct, of } = JSON.parse(this.api.LooksOf(JSON.stringify(ids))) as { distinct: Look[]; of: number[] };
    const looks = distinct.map((look) => ({ ...look, made: JSON.stringify([look.shape, look.normals]) }));
    return of.map((at) => looks[at]);
  }

  geometryOf(id: string): Uint8Array {
    return this.api.GeometryOf(id);
  }

  /** The upright of a face in the world, by its corners in the object's frame. */
  normalOf(id: string, corners: number[][]): Vec3 {
    return this.api.NormalOf(id, corners.flat()) as Vec3;
  }

  /** How the scene looks through a camera; null where there is no such camera. */
  cameraView(id: string): { world: number[]; lens: Lens } | null {
    const text = this.api.CameraView(id);
    return text ? (JSON.parse(text) as { world: number[]; lens: Lens }) : null;
  }

  /** Where nodes would stand as they are given here. */
  shadows(nodes: NodeData[]): Shadow[] {
    return JSON.parse(this.api.Shadows(JSON.stringify(nodes))) as Shadow[];
  }

  /** Shows edits without making them. */
  tryEdits(edits: object[]): Refusal | null {
    return this.refusal(this.api.TryEdits(JSON.stringify(edits)));
  }

  boundsOf(ids: string[]): Bounds | null {
    const n = this.api.BoundsOf(JSON.stringify(ids));
    return n.length === 6 ? { low: [n[0]!, n[1]!, n[2]!], high: [n[3]!, n[4]!, n[5]!] } : null;
  }

  /** What a view shows whole when it frames some nodes. */
  framingOf(ids: string[]): Bounds | null {
    const n = this.api.FramingOf(JSON.stringify(ids));
    return n.length === 6 ? { low: [n[0]!, n[1]!, n[2]!], high: [n[3]!, n[4]!, n[5]!] } : null;
  }

  /** All parameters of a shape of a type in its usual size. */
  usualShape(type: string): Partial<Shape> {
    return JSON.parse(this.api.UsualShape(type)) as Partial<Shape>;
  }

  /** Whether the person's language writes decimals with a comma. */
  setComma(comma: boolean): void {
    this.api.SetComma(comma);
  }

  /** Where handles stand; asked to foretell, also what the edit would do besides. */
  frame(edit: object, space: object, foretell: boolean): Frame | Refusal {
    return JSON.parse(this.api.Frame(JSON.stringify(edit), JSON.stringify(space), foretell)) as Frame | Refusal;
  }

  begin(edit: object, space: object): Refusal | null {
    return this.refusal(this.api.Begin(JSON.stringify(edit), JSON.stringify(space)));
  }

  grab(part: string, axis: number, view: number[], parallel: boolean, size: number, ray: number[]): Refusal | null {
    return this.refusal(this.api.Grab(part, axis, view, parallel, size, ray));
  }

  dragTo(ray: number[], fine: boolean, step: number, onGrid: boolean, snap: SnapRequest | null): Tried {
    // The many numbers go in bulk: as JSON, reading them would cost more than deciding.
    const near = snap?.near ?? [];
    const small = snap ? JSON.stringify({ ...snap, near: near.map(({ node }) => ({ node, triangles: [] })) }) : '';
    const triangles = near.flatMap((n) => n.triangles);
    const counts = near.map((n) => n.triangles.length);
    return JSON.parse(this.api.DragTo(ray, fine, step, onGrid, small, triangles, counts)) as Tried;
  }

  /** Tries what was typed into the sentence; with "to" a bare number is the value that its axes are to have. */
  tryTyped(text: string, to: boolean, axes: [boolean, boolean, boolean]): Tried {
    return JSON.parse(this.api.TryTyped(text, to, ...axes)) as Tried;
  }

  drawShape(type: string, origin: Vec3, upright: Vec3, view: number[], parallel: boolean): Refusal | null {
    return this.refusal(this.api.DrawShape(type, origin, upright, view, parallel));
  }

  /** Draws its footprint, or then its height; tells its corners in the world, its sizes and the edit that makes it. */
  drawTo(ray: number[], step: number, rising: boolean, id: string, name: string): DrawnShape | Refusal {
    return JSON.parse(this.api.DrawTo(ray, step, rising, id, name)) as DrawnShape | Refusal;
  }

  /** Where pivots stand in the world, three numbers each. */
  pivotsOf(ids: string[]): number[] {
    return this.api.PivotsOf(JSON.stringify(ids));
  }

  /** A length in the scene's unit, in words. */
  sayLength(metres: number): string {
    return this.api.SayLength(metres);
  }

  channelsOf(ids: string[], world: boolean, size: boolean): Common {
    return JSON.parse(this.api.ChannelsOf(JSON.stringify(ids), world, size)) as Common;
  }

  strayPivots(): StrayPivot[] {
    return JSON.parse(this.api.StrayPivots()) as StrayPivot[];
  }

  /** A placement, or one channel of it, as text for the clipboard. */
  placementAsText(id: string, channel: Channel | ''): string {
    return this.api.PlacementAsText(id, channel);
  }

  placementFromText(text: string, ids: string[], bare: Channel | ''): object[] | Refusal {
    return JSON.parse(this.api.PlacementFromText(text, JSON.stringify(ids), bare)) as object[] | Refusal;
  }

  /** What of a surface was pressed: a vertex or an edge within reach of the point, else the face. */
  surfaceAt(
    id: string,
    corners: number[],
    at: Vec3,
    reach: number,
  ): { part: 'face' | 'edge' | 'middle' | 'vertex'; upright: Vec3; point: Vec3 } {
    return JSON.parse(this.api.SurfaceAt(id, corners, at, reach)) as ReturnType<Core['surfaceAt']>;
  }

  /** The mean upright of faces by their areas; nine numbers a face, in the frames of the objects of the same places. */
  meanUpright(ids: string[], faces: number[]): Vec3 {
    return this.api.MeanUpright(JSON.stringify(ids), faces) as Vec3;
  }

  try(amount: Vec3): Tried {
    return JSON.parse(this.api.Try(...amount)) as Tried;
  }

  keepTrial(): Kept | Refusal {
    return JSON.parse(this.api.KeepTrial()) as Kept | Refusal;
  }

  /** Leaves the original where it was; a copy gets the edit. */
  keepTrialAsCopy(ids: string[]): Kept | Refusal {
    return JSON.parse(this.api.KeepTrialAsCopy(JSON.stringify(ids))) as Kept | Refusal;
  }

  putBack(): void {
    this.api.PutBack();
  }

  keepEdits(edits: object[]): Kept | Refusal {
    const kept = JSON.parse(this.api.KeepEdits(JSON.stringify(edits))) as Kept | Refusal;
    return isRefusal(kept) ? kept : { ...kept, edits };
  }

  hear({ revision, changed, removed, entities = [], gone = [], ticket }: ServerStep): Heard {
    return JSON.parse(this.api.Hear(JSON.stringify({ revision, changed, removed, entities, gone, ticket }))) as Heard;
  }

  /** Takes in an own step by its digest alone; false: it is to be heard in full. */
  agree(revision: number, ticket: number, digest: string): boolean {
    return this.api.Agree(revision, ticket, digest);
  }

  drop(ticket: number): Heard {
    return JSON.parse(this.api.Drop(ticket)) as Heard;
  }

  revision(): number {
    return this.api.Revision();
  }

  setUnit(unit: string): void {
    this.api.SetUnit(unit);
  }

  /** A typed amount, understood; for a field also the value that it leads to from the present one. */
  understand(
    text: string,
    quantity: 'length' | 'angle' | 'factor',
    field: boolean,
    present: number,
  ): Understood | Refusal {
    return JSON.parse(this.api.Understand(text, quantity, field, present)) as Understood | Refusal;
  }

  anchorInWords(anchor: Vec3): string {
    const key = anchor.join();
    let words = this.anchors.get(key);
    if (words === undefined) this.anchors.set(key, (words = this.api.AnchorInWords(...anchor)));
    return words;
  }

  private readonly anchors = new Map<string, string>();

  private refusal(text: string): Refusal | null {
    const answer = JSON.parse(text) as object;
    return isRefusal(answer) ? answer : null;
  }
}

function rowsOf(text: string): OutlineRow[] {
  const rows: OutlineRow[] = [];
  for (const line of text.split('\n')) {
    if (line.length === 0) continue;
    const [id, slot, parent, kind, switches, geometry, shares, color, collections, ...name] = line.split('\t');
    const bits = Number(switches);
    rows.push({
      id: id!,
      slot: Number(slot),
      parent: parent || null,
      kind: kind as NodeKind,
      working: (bits & 1) !== 0,
      final: (bits & 2) !== 0,
      locked: (bits & 4) !== 0,
      drawn: drawnAs[(bits >> 3) & 3]!,
      closed: (bits & 32) !== 0,
      smart: (bits & 64) !== 0,
      noted: (bits & 128) !== 0,
      geometry: geometry || null,
      shares: shares || null,
      color: color || null,
      collections: collections ? collections.split(',') : [],
      name: name.join(' '),
    });
  }
  return rows;
}
