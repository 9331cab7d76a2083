/** The exports of src/Browser, one for one. What goes as JSON is text here; core.ts gives it its types. */
export interface Exports {
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
  IndexGeometry(hash: string, order: Uint8Array): void;
  WorldsAddress(): number;
  ChangedAddress(): number;
  ChangedCount(): number;
  SlotCount(): number;
  Sweep(): void;
  Digest(): string;
  Outline(): string;
  Node(id: string): string;
  Stored(id: string): string;
  Materials(): string;
  MaterialOf(id: string): string;
  MadeOf(ids: string, slot: number): string;
  MaterialUsers(id: string): string;
  MaterialUsersInWords(id: string): string;
  LooksOf(ids: string): string;
  GeometryOf(id: string): Uint8Array;
  NormalOf(id: string, corners: number[]): number[];
  CameraView(id: string): string;
  PictureSize(wide: number, aspect: number): number[];
  Shadows(step: string, after: boolean): string;
  TryEdits(edits: string, shot: string, narrow: boolean): string;
  SetScope(shot: string, narrow: boolean, asInShot: boolean): string;
  Shots(): string;
  TimeCode(frame: number): string;
  Diff(a: string, b: string): string;
  DiffShadows(a: string, b: string): string;
  SeenTable(ids: string): string;
  SeenCell(shot: string, id: string): string;
  InFrame(camera: string, behindOthers: boolean): string;
  BeyondFrame(camera: string): string;
  ThroughCamera(camera: string, lead: string): string;
  SeenIn(ids: string): string;
  CheatsOn(ids: string): string;
  FramesOf(text: string): string;
  BoundsOf(ids: string): number[];
  FramingOf(ids: string): number[];
  SetComma(comma: boolean): void;
  UsualShape(type: string): string;
  Frame(edit: string, space: string, foretell: boolean): string;
  Begin(edit: string, space: string): string;
  Grab(part: string, axis: number, view: number[], parallel: boolean, size: number, ray: number[]): string;
  DragTo(pointer: number[], near: number[], triangles: number[]): string;
  TriedAddress(): number;
  FiguresOf(r: number, g: number, b: number): string;
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
  TrySteer(camera: string, view: number[]): string;
  TriedEdits(): string;
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
  LinksOf(id: string): string;
  ForetoldBy(edits: string): string;
  ThreadsOf(ids: string | null, edits: string | null): string;
  OwnAxesOf(id: string): number[];
  LimitAt(id: string, link: string, high: boolean, ray: number[], step: number): string;
  Lamps(): string;
  Surroundings(): string;
  CommonLight(ids: string): string;
  CommonCamera(ids: string): string;
  LensShape(id: string, view: number[], parallel: boolean, size: number): string;
  LensTo(
    id: string,
    part: string,
    view: number[],
    parallel: boolean,
    size: number,
    ray: number[],
    step: number,
  ): string;
  NextMarkName(after: string): string;
  OneLevelOut(ids: string): string;
  AmongSiblings(id: string, way: number): string;
  HasNamesake(id: string): boolean;
  PictureSizeOf(text: string): number[];
  AnchorInWords(x: number, y: number, z: number): string;
  AnchorSeen(x: number, y: number, z: number, id: string, view: number[]): string;
}
