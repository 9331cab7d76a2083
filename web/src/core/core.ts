import {
  isRefusal,
  type Bounds,
  type CameraView,
  type Channel,
  type Common,
  type DrawnShape,
  type Edit,
  type EntityData,
  type Foreseen,
  type Frame,
  type Heard,
  type Kept,
  type Limits,
  type Look,
  type NodeAnswer,
  type NodeData,
  type Refusal,
  type SeenAnswer,
  type ServerStep,
  type Shadow,
  type Shape,
  type Space,
  type StrayPivot,
  type SurfaceAnswer,
  type Tried,
  type Understood,
  type Vec3,
  type CollectionColors,
} from './answers';
import type {
  CommonCamera,
  CommonLight,
  Foretelling,
  LensPart,
  LinkReading,
  MadeOf,
  LampReading,
  MaterialReading,
  SurroundingsAnswer,
  LinkThread,
  LensShape,
  CheatReading,
  LoadedAnswer,
  Looks,
  SeenInReading,
  CameraReading,
  DiffReading,
  SeenTable,
  ShotsAnswer,
} from '../wire/bridgeTypes';
import type { PartChange } from '../wire/apiTypes';
import { bootCore } from './boot';
import type { Exports } from './exports';
import { Memory } from './memory';
import { rowsOf, type OutlineRow } from './outline';
import { pointerOf, triedOf, type SnapAsk } from './pointerMove';
import type { Colour } from './colour';

/**
 * The core in the page: every call that the page makes, with types. Every placement comes from here; TypeScript computes
 * none. Small things go as JSON, world matrices are read in place from the core's memory.
 */
export class Core {
  private constructor(
    private readonly memory: Memory,
    private readonly api: Exports,
  ) {}

  static async boot(): Promise<Core> {
    const { runtime, exports } = await bootCore();
    return new Core(new Memory(runtime, exports), exports);
  }

  /** Reads a scene that is to be opened; the open one stays. Tells the hashes of the stored geometry that it uses. */
  load(scene: Uint8Array): LoadedAnswer {
    return JSON.parse(this.api.Load(scene)) as LoadedAnswer;
  }

  /** Opens the scene that was loaded. What is being tried goes on where it is the same scene. */
  open(): Heard {
    return JSON.parse(this.api.Open()) as Heard;
  }

  /** Takes in the order in which the triangles of a geometry are found fast, so that nobody waits for it later. */
  indexGeometry(hash: string, order: Uint8Array): void {
    this.api.IndexGeometry(hash, order);
  }

  addGeometry(hash: string, bytes: Uint8Array): void {
    this.api.AddGeometry(hash, bytes);
  }

  /** All world matrices, twelve numbers a slot, row by row. Valid until the next call that may allocate: never keep it. */
  worlds(): Float64Array {
    return this.memory.worlds();
  }

  /** The slots that the last try changed. */
  changed(): Int32Array {
    return this.memory.changed();
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
    return this.memory.sight();
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

  foresee(edits: Edit[]): Foreseen | Refusal {
    return JSON.parse(this.api.Foresee(JSON.stringify(edits))) as Foreseen | Refusal;
  }

  /** The first of the names that a renaming of many would give. */
  namesAfter(edit: Edit, most: number): string[] | Refusal {
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

  /** All materials in their order; while an edit is tried, as it makes them. */
  materials(): MaterialReading[] {
    return JSON.parse(this.api.Materials()) as MaterialReading[];
  }

  /** One material; null: it is gone. */
  materialOf(id: string): MaterialReading | null {
    const text = this.api.MaterialOf(id);
    return text ? (JSON.parse(text) as MaterialReading) : null;
  }

  /** What objects are made of in a slot. */
  madeOf(ids: string[], slot: number): MadeOf {
    return JSON.parse(this.api.MadeOf(JSON.stringify(ids), slot)) as MadeOf;
  }

  /** The objects that are made of a material. */
  materialUsers(id: string): string[] {
    return JSON.parse(this.api.MaterialUsers(id)) as string[];
  }

  /** Who uses a material; empty: nobody. */
  materialUsersInWords(id: string): string {
    return this.api.MaterialUsersInWords(id);
  }

  /** What objects look like, in their order. */
  looks(ids: string[]): (Look | undefined)[] {
    const { distinct, of } = JSON.parse(this.api.LooksOf(JSON.stringify(ids))) as Looks;
    const looks = distinct.map((look) => ({ ...look, made: JSON.stringify([look.shape, look.normals, look.lies]) }));
    return of.map((at) => looks[at]);
  }

  geometryOf(id: string): Uint8Array {
    return this.api.GeometryOf(id);
  }

  /** The upright of a face in the world, by its corners in the object's frame. */
  normalOf(id: string, corners: number[][]): Vec3 {
    return this.api.NormalOf(id, corners.flat()) as Vec3;
  }

  /** Width and height of a picture that is wished so many pixels wide. */
  pictureSize(wide: number, aspect: number): [width: number, height: number] {
    return this.api.PictureSize(wide, aspect) as [number, number];
  }

  /** How the scene looks through a camera; null where there is no such camera. */
  cameraView(id: string): CameraView | null {
    const text = this.api.CameraView(id);
    return text ? (JSON.parse(text) as CameraView) : null;
  }

  /** Where things stood before a step, or would stand after it, beside where they stand. */
  shadows(step: PartChange[], after: boolean): Shadow[] {
    return JSON.parse(this.api.Shadows(JSON.stringify(step), after)) as Shadow[];
  }

  /** Shows edits without making them. */
  tryEdits(edits: Edit[], within: { shot: string; narrow: boolean } | null = null): Refusal | null {
    return this.refusal(this.api.TryEdits(JSON.stringify(edits), within?.shot ?? '', within?.narrow ?? false));
  }

  /** Makes a shot the current one, or none, and says whether edits are made in it alone. */
  setScope(shot: string | null, narrow: boolean, asInShot: boolean): Heard | Refusal {
    return JSON.parse(this.api.SetScope(shot ?? '', narrow, asInShot)) as Heard | Refusal;
  }

  /** All shots in their order, and what the scene counts time by. */
  shots(): ShotsAnswer {
    return JSON.parse(this.api.Shots()) as ShotsAnswer;
  }

  /** How things are seen, shot by shot. */
  seenIn(ids: string[]): SeenInReading[] {
    return JSON.parse(this.api.SeenIn(JSON.stringify(ids))) as SeenInReading[];
  }

  /** What things have of their own in the current shot. */
  cheatsOn(ids: string[]): CheatReading[] {
    return JSON.parse(this.api.CheatsOn(JSON.stringify(ids))) as CheatReading[];
  }

  /** What is not the same in two shots; null: the scene. */
  diff(a: string | null, b: string | null): DiffReading | Refusal {
    return JSON.parse(this.api.Diff(a ?? '', b ?? '')) as DiffReading | Refusal;
  }

  /** How what is not the same stands in the second, beside how it is shown. */
  diffShadows(a: string | null, b: string | null): Shadow[] | Refusal {
    return JSON.parse(this.api.DiffShadows(a ?? '', b ?? '')) as Shadow[] | Refusal;
  }

  /** Collections and some objects against shots. */
  seenTable(ids: string[]): SeenTable {
    return JSON.parse(this.api.SeenTable(JSON.stringify(ids))) as SeenTable;
  }

  /** How one thing is seen in one shot. */
  seenCell(shot: string, id: string): SeenInReading | null {
    const text = this.api.SeenCell(shot, id);
    return text ? (JSON.parse(text) as SeenInReading) : null;
  }

  /** What falls in a camera's frame; what others hide as well, where it is asked. */
  inFrame(camera: string, behindOthers: boolean): string[] {
    return JSON.parse(this.api.InFrame(camera, behindOthers)) as string[];
  }

  /** What has to be switched off for nothing else to be in the picture. */
  beyondFrame(camera: string): string[] {
    return JSON.parse(this.api.BeyondFrame(camera)) as string[];
  }

  /** What is to be known of a camera that is looked through. */
  throughCamera(camera: string, lead: string | null): CameraReading | null {
    const text = this.api.ThroughCamera(camera, lead ?? '');
    return text ? (JSON.parse(text) as CameraReading) : null;
  }

  /** Where a frame of the sequence lies. */
  timeCode(frame: number): string {
    return this.api.TimeCode(frame);
  }

  /** The frames of a typed length. */
  framesOf(text: string): { frames: number } | Refusal {
    return JSON.parse(this.api.FramesOf(text)) as { frames: number } | Refusal;
  }

  /** Tries a camera where a view stands. */
  trySteer(camera: string, view: number[]): Refusal | null {
    return this.refusal(this.api.TrySteer(camera, view));
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
  frame(edit: Edit, space: Space, foretell: boolean): Frame | Refusal {
    return JSON.parse(this.api.Frame(JSON.stringify(edit), JSON.stringify(space), foretell)) as Frame | Refusal;
  }

  begin(edit: Edit, space: Space): Refusal | null {
    return this.refusal(this.api.Begin(JSON.stringify(edit), JSON.stringify(space)));
  }

  grab(part: string, axis: number, view: number[], parallel: boolean, size: number, ray: number[]): Refusal | null {
    return this.refusal(this.api.Grab(part, axis, view, parallel, size, ray));
  }

  /** Follows the pointer: numbers both ways, and a few words. */
  dragTo(ray: number[], fine: boolean, step: number, onGrid: boolean, snap: SnapAsk | null): Tried {
    const near = snap?.near ?? [];
    const words = this.api.DragTo(
      pointerOf(ray, fine, step, onGrid, snap),
      near.flatMap((n) => [n.slot, n.triangles.length]),
      near.flatMap((n) => n.triangles),
    );
    return triedOf(this.memory.tried(), words);
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

  placementFromText(text: string, ids: string[], bare: Channel | ''): Edit[] | Refusal {
    return JSON.parse(this.api.PlacementFromText(text, JSON.stringify(ids), bare)) as Edit[] | Refusal;
  }

  /** What of a surface was pressed: a vertex or an edge within reach of the point, else the face. */
  surfaceAt(id: string, corners: number[], at: Vec3, reach: number): SurfaceAnswer {
    return JSON.parse(this.api.SurfaceAt(id, corners, at, reach)) as SurfaceAnswer;
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

  keepEdits(edits: Edit[]): Kept | Refusal {
    const kept = JSON.parse(this.api.KeepEdits(JSON.stringify(edits))) as Kept | Refusal;
    return isRefusal(kept) ? kept : { ...kept, edits };
  }

  hear({ revision, changed, removed, entities = [], gone = [], written, ticket }: ServerStep): Heard {
    const step = { revision, changed, removed, entities, gone, written, ticket };
    return JSON.parse(this.api.Hear(JSON.stringify(step))) as Heard;
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

  /** A picture's size typed as 640 × 360, or a proportion as 4:3; null: it is something else. */
  pictureSizeOf(text: string): { width: number; height: number; proportion: boolean } | null {
    const [width, height, proportion] = this.api.PictureSizeOf(text);
    return width === undefined ? null : { width, height: height!, proportion: proportion === 1 };
  }

  /** Six figures behind a #, those nearest to a colour. */
  figuresOf(colour: Colour): string {
    return typeof colour === 'string' ? colour : this.api.FiguresOf(...colour);
  }

  /** What is tried at the moment; null: nothing is. */
  triedEdits(): Edit[] | null {
    return JSON.parse(this.api.TriedEdits()) as Edit[] | null;
  }

  /** What each constraint of an object does at the moment, also while something is tried. */
  linksOf(id: string): LinkReading[] {
    return JSON.parse(this.api.LinksOf(id)) as LinkReading[];
  }

  /** What constraints would do to edits, and what these would make jump. */
  foretoldBy(edits: Edit[]): Foretelling {
    return JSON.parse(this.api.ForetoldBy(JSON.stringify(edits))) as Foretelling;
  }

  /** What the constraints of objects look like on the stage, also while something is tried; of none: of the whole scene. */
  threadsOf(ids: string[] | null, edits: Edit[] | null = null): LinkThread[] {
    return JSON.parse(this.api.ThreadsOf(ids && JSON.stringify(ids), edits && JSON.stringify(edits))) as LinkThread[];
  }

  /** The pivot and the three own axes of an object as it stands, in the world; nothing where it is gone. */
  ownAxesOf(id: string): Vec3[] {
    const n = this.api.OwnAxesOf(id);
    return Array.from({ length: n.length / 3 }, (_, i) => [n[3 * i]!, n[3 * i + 1]!, n[3 * i + 2]!]);
  }

  /** The edit that sets a limit of a swivel to where a ray meets its arc; null: nowhere. */
  limitAt(id: string, link: string, high: boolean, ray: number[], step: number): Edit | null {
    return JSON.parse(this.api.LimitAt(id, link, high, ray, step)) as Edit | null;
  }

  /** What the lamps among objects have in common; while an edit is tried, what it makes of them. */
  commonLight(ids: string[]): CommonLight {
    return JSON.parse(this.api.CommonLight(JSON.stringify(ids))) as CommonLight;
  }

  /** All lamps as they shine; while an edit is tried, as it makes them. */
  lamps(): LampReading[] {
    return JSON.parse(this.api.Lamps()) as LampReading[];
  }

  /** What lights the scene from all sides; while an edit is tried, as it makes that. */
  surroundings(): SurroundingsAnswer {
    return JSON.parse(this.api.Surroundings()) as SurroundingsAnswer;
  }

  commonCamera(ids: string[]): CommonCamera {
    return JSON.parse(this.api.CommonCamera(JSON.stringify(ids))) as CommonCamera;
  }

  /** What is drawn of a lamp's or a camera's lens, and what can be taken hold of. */
  lensShape(id: string, view: number[], parallel: boolean, size: number): LensShape {
    return JSON.parse(this.api.LensShape(id, view, parallel, size)) as LensShape;
  }

  /** The edit that brings a part of a lens to where a ray points; null where the ray says nothing of it. */
  lensTo(
    id: string,
    part: LensPart,
    view: number[],
    parallel: boolean,
    size: number,
    ray: number[],
    step: number,
  ): Edit | null {
    const text = this.api.LensTo(id, part, view, parallel, size, ray, step);
    return text ? (JSON.parse(text) as Edit) : null;
  }

  /** A name for a new mark that none has yet, after what it stands at; after nothing: a number. */
  nextMarkName(after: string): string {
    return this.api.NextMarkName(after);
  }

  /** The edits that put objects beside what carries them. */
  oneLevelOut(ids: string[]): Edit[] {
    return JSON.parse(this.api.OneLevelOut(JSON.stringify(ids))) as Edit[];
  }

  /** The edit that moves an object up or down among its siblings; null where it is the first or last already. */
  amongSiblings(id: string, way: -1 | 1): Edit | null {
    const text = this.api.AmongSiblings(id, way);
    return text ? (JSON.parse(text) as Edit) : null;
  }

  /** Whether another in the same list has the same name. */
  hasNamesake(id: string): boolean {
    return this.api.HasNamesake(id);
  }

  anchorInWords(anchor: Vec3): string {
    const key = anchor.join();
    let words = this.anchors.get(key);
    if (words === undefined) this.anchors.set(key, (words = this.api.AnchorInWords(...anchor)));
    return words;
  }

  /** The same as it is seen in a view: "left front edge of the base". @param id Whose own axes; nothing: the world's. */
  anchorSeen(anchor: Vec3, id: string | null, view: number[]): string {
    return this.api.AnchorSeen(...anchor, id ?? '', view);
  }

  private readonly anchors = new Map<string, string>();

  private refusal(text: string): Refusal | null {
    const answer = JSON.parse(text) as object;
    return isRefusal(answer) ? answer : null;
  }
}
