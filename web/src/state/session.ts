import {
  Core,
  isRefusal,
  type Heard,
  type Kept,
  type Ongoing,
  type OutlineRow,
  type Refusal,
  type SnapRequest,
  type Stale,
  type Tried,
  type Vec3,
} from '../core/bridge';
import { api, OutOfReach, Refused, type Progress, type Settings, type StepAnswer } from '../api/client';
import { Outbox, type Unsent } from '../api/outbox';
import { Sync } from '../api/sync';
import { template, type Template } from './edits';
import { SelectionSteps } from './selectionSteps';
import { cleaned, ownSettings } from './settings';
import { rememberedMark } from './currentMark';
import { fitting, recall, type Memory } from './remembered';
import { rememberedOpening } from './opening';
import { closedAtFirst, inTree, patchRows, readOutline } from './rows';
import { get, noFilter, set, type Notice, type Verb } from './store';

/** What draws the scene; the stage implements it. */
export interface Picture {
  rebuild(): void;
  looksChanged(ids: string[]): void;
  worldsChanged(all: boolean): void;
  /** What is seen, and how it is drawn. */
  sightChanged(): void;
  draw(): void;
  viewWorld(): number[];
  /** An axis of the sentence as the active view sees it: right, up, toward the eye; null where nothing is picked. */
  axisSeen(axis: number): Vec3 | null;
  /** The point that the active view looks at. */
  focus(): Vec3;
  frame(ids: string[] | null, glide: boolean): void;
  /** The view that a scene is entered by, or where the person was before. */
  startView(memory?: Partial<Memory> | null): void;
  /** Views that were turned freely stand upright again. */
  level(): void;
}

/** The one place where the page acts: opens scenes, tries and keeps edits, and keeps the store in step with the core. */
class Session {
  core!: Core;
  picture: Picture | null = null;
  private sync: Sync | null = null;
  private readonly outbox = new Outbox();
  /** Scenes that were left while a call was under way. */
  private readonly leaving = new Map<string, Promise<void>>();
  private opening = 0;
  private readonly selections = new SelectionSteps();

  async start(): Promise<void> {
    try {
      const [core, settings] = await Promise.all([Core.boot(), api.settings().catch((): Settings => ({}))]);
      this.core = core;
      core.setComma(new Intl.NumberFormat(navigator.language).format(1.5).includes(','));
      set({ settings: cleaned(settings as Record<string, unknown>) });
      await this.listScenes();
      const wanted = new URLSearchParams(location.search).get('scene');
      const scenes = get().scenes;
      const first = scenes.find((s) => s.id === wanted) ?? scenes.find((s) => s.id === 'orrery-room') ?? scenes[0];
      const lost = wanted !== null && first?.id !== wanted;
      window.addEventListener('beforeunload', (event) => this.outbox.wouldLose && event.preventDefault());
      window.addEventListener('pagehide', () => this.flushSettings());
      if (first) await this.open(first.id);
      else set({ ready: true });
      if (lost) {
        this.say({
          kind: 'warning',
          text: `The scene of this link is gone.${first ? ` This is ${first.name}; choose another in the list of scenes.` : ''}`,
        });
        set({ listing: true });
      }
      for (const scene of await this.outbox.scenes()) void this.deliver(scene);
    } catch (error) {
      set({ failed: error instanceof OutOfReach ? 'The server is out of reach. Start it and reload.' : String(error) });
    }
  }

  async listScenes(): Promise<void> {
    set({ scenes: await api.scenes() });
  }

  /**
   * Opens a scene: what was not sent yet of it goes first, then it is fetched whole with its geometry, and only when all is
   * there does the page change over. The same scene is read anew under what is being tried or prepared.
   */
  async open(id: string, keepView = false): Promise<void> {
    const turn = ++this.opening;
    const isLate = () => turn !== this.opening;
    await this.leaving.get(id);
    await this.outbox.deliver(id, (text) => this.say({ kind: 'refusal', text }));
    const document = await api.document(id);
    if (isLate()) return;
    const { revision, geometries } = this.core.load(document);
    await this.fetchGeometry(id, geometries);
    if (isLate()) return;
    const same = this.sync?.scene === id;
    if (same && (this.sync!.waiting > 0 || this.core.revision() > revision)) {
      // Something was done meanwhile that is not in it yet.
      setTimeout(() => isLate() || void this.readAnew(id), 1000);
      return;
    }
    if (!same) this.leave();
    const { ongoing } = this.core.open();
    if (!same) this.forgetGeometry(geometries);
    const rows = this.core.outline();
    const summary = get().scenes.find((s) => s.id === id);
    const unit = summary?.unit ?? get().scene?.unit ?? 'm';
    if (!same) {
      set({
        ready: true,
        scene: { id, name: summary?.name ?? 'Scene', unit },
        selection: [],
        closed: rememberedOpening(id) ?? closedAtFirst(rows.filter(inTree)),
        shadows: [],
        newcomers: [],
        named: [],
        plan: null,
        others: {},
        isolation: null,
        treeFilter: noFilter,
        currentMark: rememberedMark(id),
      });
      this.selections.clear();
    }
    history.replaceState(null, '', `?scene=${encodeURIComponent(id)}`);
    readOutline(rows);
    const memory = same ? null : recall(id);
    if (memory) set(fitting(memory, get()));
    const { isolation } = get();
    this.core.isolate(isolation?.ids ?? [], isolation?.withBranch ?? true);
    this.forgetGone();
    this.readSight();
    this.picture?.rebuild();
    if (!keepView && !same) this.picture?.startView(memory);
    this.selectionChanged();
    if (same) {
      this.followed();
      this.goOn(ongoing);
      this.sync!.reopened();
    } else this.connect(id);
    void this.listSelections();
  }

  /** Reads the open scene anew, for as long as it takes. */
  private async readAnew(id: string): Promise<void> {
    if (this.sync?.scene !== id) return;
    try {
      await this.open(id, true);
    } catch (error) {
      if (error instanceof Refused) this.say({ kind: 'refusal', text: error.detail });
      else setTimeout(() => void this.readAnew(id), 3000);
    }
  }

  /** Lets go of the scene that is open. What was not sent yet is sent in the background. */
  private leave(): void {
    this.putBack();
    set({ trying: false, reading: null, caught: null });
    const { sync } = this;
    if (!sync) return;
    this.sync = null;
    const closing = sync.close().finally(() => this.leaving.delete(sync.scene));
    this.leaving.set(sync.scene, closing);
    void closing.then(() => this.deliver(sync.scene));
  }

  /** Delivers what was left behind of a scene, for as long as it takes. */
  private deliver(scene: string): Promise<void> {
    return this.outbox
      .deliver(scene, (text) => this.say({ kind: 'refusal', text }))
      .catch(() => void setTimeout(() => void this.deliver(scene), 3000));
  }

  async listSelections(): Promise<void> {
    const id = get().scene?.id;
    if (!id) return;
    const named = await api.selections(id).catch(() => []);
    if (get().scene?.id === id) set({ named });
  }

  private connect(id: string): void {
    const sync = new Sync(this.core, id, this.outbox, {
      heard: (heard) => this.heard(heard),
      setAside: (step) => this.setAside(id, step),
      refused: (text) => this.say({ kind: 'refusal', text }),
      state: ({ online, waiting, step }) =>
        set({ online, waiting, ...(step === undefined ? {} : { stepNumber: step }) }),
      described: (name, unit) => {
        set({ scene: { id, name, unit } });
        this.core.setUnit(unit);
      },
      reload: () => void this.readAnew(id),
      gone: () => void this.goneFrom(id),
      picked: (page, nodes) => {
        const others = { ...get().others };
        if (nodes.length === 0) delete others[page];
        else others[page] = nodes;
        set({ others });
      },
      progress: (progress) => this.progressed(progress),
    });
    this.sync = sync;
    // What was still under way of the scene before is delivered in the background, and not counted here.
    set({ online: true, waiting: 0 });
    void sync.connect().then(() => sync.tellPicked(get().selection));
  }

  /** By what the server knows this page; null while it is out of reach. */
  get page(): string | null {
    return this.sync?.page ?? null;
  }

  /** Called when the server tells how far something long is. */
  progressed: (progress: Progress) => void = () => undefined;

  /** The open scene was removed by somebody else: said at once, with the list of the others. */
  private async goneFrom(id: string): Promise<void> {
    if (this.sync?.scene !== id || this.removing === id) return;
    const name = get().scene?.name ?? 'The scene';
    await this.guarded(() => this.listScenes());
    const next = get().scenes[0];
    if (next) await this.guarded(() => this.open(next.id));
    this.say({
      kind: 'warning',
      text: `${name} was removed in another window. ${next ? `This is ${next.name}.` : ''}`,
    });
    set({ listing: true });
  }

  /** The scene that is being removed from here. */
  removing: string | null = null;

  private async fetchGeometry(id: string, hashes: string[]): Promise<void> {
    for (const hash of hashes) {
      if (this.geometry.has(hash)) continue;
      const bytes = await api.geometry(id, hash);
      this.geometry.set(hash, bytes);
      this.core.addGeometry(hash, bytes);
    }
  }

  /** The core keeps what its open scene uses, and so does the page. */
  private forgetGeometry(used: string[]): void {
    const kept = new Set(used);
    for (const hash of this.geometry.keys()) if (!kept.has(hash)) this.geometry.delete(hash);
  }

  /** What an own edit made is known to the core before the server has it. */
  private takeMade(rows: OutlineRow[]): string[] {
    const missing = new Set<string>();
    for (const { geometry } of rows) {
      if (geometry === null || this.geometry.has(geometry)) continue;
      const bytes = this.core.knownGeometry(geometry);
      if (bytes.length > 0) this.geometry.set(geometry, bytes);
      else missing.add(geometry);
    }
    return [...missing];
  }

  /** Stored geometry that has been fetched, by hash. */
  readonly geometry = new Map<string, Uint8Array>();

  /** Counts the changes that the page has followed; what is kept of the core holds until the next. */
  changes = 0;

  /** Follows a change of the core: lists, pictures, the selection and the panels. */
  private refresh(stale: Stale): void {
    this.changes++;
    const id = get().scene?.id;
    if (stale.outline || stale.rows.length > 0) {
      const rows = stale.outline ? this.core.outline() : this.core.outlineOf(stale.rows);
      if (stale.outline) readOutline(rows);
      else patchRows(rows);
      this.forgetGone();
      const missing = this.takeMade(rows);
      if (missing.length > 0 && id) {
        void this.guarded(() => this.fetchGeometry(id, missing)).then(() => this.picture?.rebuild());
      }
    }
    const sight = stale.outline || stale.rows.length > 0 || stale.looks.length > 0;
    if (sight) this.readSight();
    if (stale.looks.length > 0) this.picture?.looksChanged(stale.looks);
    if (sight) this.picture?.sightChanged();
    if (stale.worlds) this.picture?.worldsChanged(true);
    this.readLead();
    this.picture?.draw();
  }

  /** What is gone is not picked any more. */
  private forgetGone(): void {
    const { selection, byId } = get();
    const present = selection.filter((id) => byId.has(id));
    if (present.length !== selection.length) set({ selection: present });
  }

  /** Called when the scene has changed by what others did, or was read anew. */
  private followed: () => void = () => undefined;

  /** What is prepared in the sentence says how it follows what others do. */
  follow(act: () => void): void {
    this.followed = act;
  }

  /** A step that was made by a call of its own, as an import is. */
  follows(answer: StepAnswer): void {
    this.sync?.told(answer);
  }

  private heard(heard: Heard): void {
    this.refresh(heard.stale);
    for (const dropped of heard.dropped) this.say({ kind: 'refusal', text: dropped.detail });
    this.followed();
    this.goOn(heard.ongoing);
  }

  /** Shows what became of what is being tried, after the scene has changed under it. */
  private goOn(ongoing: Ongoing | null): void {
    if (!ongoing) return;
    if (!ongoing.goes) {
      set({ trying: false, reading: null, caught: null, alignTo: null });
      this.say({ kind: 'refusal', text: ongoing.said ?? 'What was being tried is put back.' });
    } else if (ongoing.tried) this.tried(ongoing.tried);
    if (ongoing.goes && ongoing.said) this.say({ kind: 'warning', text: ongoing.said });
    this.picture?.worldsChanged(true);
    this.readLead();
    this.picture?.draw();
  }

  /** Steps that the server failed on, to be tried again in their scene. */
  private aside: { scene: string; step: Unsent }[] = [];

  get hasAside(): boolean {
    return this.aside.some(({ scene }) => scene === this.sync?.scene);
  }

  private setAside(scene: string, step: Unsent): void {
    if (step.call === 'edits') this.aside.push({ scene, step });
    this.say({
      kind: 'refusal',
      text: `The server fails on “${step.sentence}” again and again, so that was taken back and set aside. All else is stored.`,
      ...(step.call === 'edits' ? { act: { word: 'Try it again', do: () => this.tryAside() } } : {}),
    });
  }

  /** Makes what was set aside again, as steps of their own. */
  tryAside(): void {
    const here = this.aside.filter(({ scene }) => scene === this.sync?.scene);
    this.aside = this.aside.filter((one) => !here.includes(one));
    for (const { step } of here) this.keep(...(step.edits as object[]));
  }

  /** Reads what is seen, and in which colours where members show those of their collections. */
  readSight(): void {
    const tints = get().settings.collectionColors ? this.core.collectionColors() : null;
    set({ sight: this.core.sight(), tints });
  }

  private readLead(): void {
    const id = get().selection.at(-1);
    set({ lead: id === undefined ? null : this.core.node(id) });
  }

  select(ids: string[], byHand = true): void {
    this.putBack();
    const before = get().selection;
    if (get().plan)
      set({ plan: null, shadows: [], newcomers: [], ...(get().picking === 'parent' ? { picking: null } : {}) });
    this.sync?.tellPicked(ids);
    if (byHand && ownSettings().selectionSteps && before.join() !== ids.join()) this.selections.changed(before);
    const snap = get().snap.from ? { snap: { ...get().snap, from: null, source: 'pivot' as const } } : {};
    set({
      selection: ids,
      notice: null,
      picked: null,
      alignTo: null,
      renaming: null,
      ...snap,
      ...(get().picked ? { picking: null } : {}),
    });
    const state = get();
    const spaces = { ...state.spaces };
    for (const verb of Object.keys(spaces) as Verb[]) if (spaces[verb] === 'surface') spaces[verb] = 'parent';
    const abouts = { ...state.abouts };
    for (const verb of ['rotate', 'scale'] as const) if (abouts[verb] === 'point') abouts[verb] = 'own';
    set({ spaces, abouts });
    this.selectionChanged();
  }

  private selectionChanged(): void {
    this.readLead();
    this.foretell();
    this.picture?.draw();
  }

  /** Asks the core what the sentence would do besides what it says. */
  foretell(): void {
    const t = this.template();
    if (!t) {
      set({ foretold: null });
      return;
    }
    const frame = this.core.frame(t.edit, t.space, true);
    set({ foretold: isRefusal(frame) ? frame.detail : frame.warning });
  }

  /** The edit of the sentence; in the active view, where no other is named. */
  template(viewWorld = () => this.picture?.viewWorld() ?? identity): Template | null {
    return template(viewWorld);
  }

  /** Begins to try the edit of the sentence. */
  begin(): boolean {
    const t = this.template();
    if (!t) return false;
    const refusal = this.core.begin(t.edit, t.space);
    if (refusal) {
      this.say({ kind: 'refusal', text: refusal.detail });
      return false;
    }
    set({ trying: true, notice: null });
    return true;
  }

  grab(part: string, axis: number, view: number[], parallel: boolean, size: number, ray: number[]): boolean {
    if (!this.begin()) return false;
    const refusal = this.core.grab(part, axis, view, parallel, size, ray);
    if (refusal) this.say({ kind: 'refusal', text: refusal.detail });
    return refusal === null;
  }

  dragTo(ray: number[], fine: boolean, step: number, snap: SnapRequest | null = null): Tried {
    return this.tried(this.core.dragTo(ray, fine, step, get().onGrid, snap));
  }

  /** Tries a typed text as the amount; null when it is not understood. */
  tryText(text: string): boolean {
    // Nothing typed is nothing to try.
    if (text.trim() === '') return false;
    if (!get().trying && !this.begin()) return false;
    const { typeTo, verb, axes } = get();
    return this.tried(this.core.tryTyped(text, typeTo, axes[verb])).refused === null;
  }

  private tried(tried: Tried): Tried {
    const { lead } = get();
    set({
      reading: tried.reading,
      caught: tried.caught,
      notice: tried.refused
        ? { kind: 'refusal', text: tried.refused.detail }
        : tried.reading.warning
          ? { kind: 'warning', text: tried.reading.warning }
          : null,
      ...(lead && tried.lead
        ? { lead: { ...lead, ...tried.lead, node: { ...lead.node, placement: tried.lead.placement } } }
        : {}),
    });
    this.picture?.worldsChanged(false);
    return tried;
  }

  keepTrial(asCopy = false): void {
    if (!get().trying) return;
    if (get().rehearse) {
      const { reading } = get();
      this.putBack();
      this.say({
        kind: 'info',
        text: `Rehearsed ${reading?.amount ?? ''}: it is back where it was. Q ends rehearsing.`.replace('  ', ' '),
      });
      return;
    }
    const copies = asCopy ? this.core.tops(get().selection).map(() => crypto.randomUUID()) : null;
    const answer = copies ? this.core.keepTrialAsCopy(copies) : this.core.keepTrial();
    set({ trying: false, reading: null, caught: null });
    if (!this.afterKeeping(answer) || !copies) return;
    this.pickQuietly(copies);
    const { notice } = get();
    if (notice) this.say({ ...notice, act: { word: '… and more at the same step', do: () => this.moreLikeIt() } });
  }

  putBack(): void {
    if (!get().trying) return;
    this.core.putBack();
    set({ trying: false, reading: null, caught: null, notice: null });
    this.picture?.worldsChanged(true);
    this.readLead();
    this.picture?.draw();
  }

  /** Makes edits as one step. */
  keep(...edits: object[]): boolean {
    if (get().trying) {
      this.core.putBack();
      set({ trying: false, reading: null });
    }
    return this.afterKeeping(this.core.keepEdits(edits));
  }

  /** Makes edits as one step and picks what it is about; what was said of the step stays said. */
  keepAndPick(edits: object[], ids: string[]): boolean {
    const kept = this.keep(...edits);
    if (kept) this.pickQuietly(ids);
    return kept;
  }

  private pickQuietly(ids: string[]): void {
    const { notice } = get();
    this.select(ids);
    this.say(notice);
  }

  private afterKeeping(answer: Kept | Refusal): boolean {
    if (isRefusal(answer)) {
      this.say({ kind: 'refusal', text: answer.detail });
      this.picture?.worldsChanged(true);
      this.readLead();
      this.picture?.draw();
      return false;
    }
    if (answer.empty) {
      this.core.drop(answer.ticket);
      this.refresh({ worlds: true, outline: false, rows: [], looks: [] });
      return true;
    }
    this.selections.edited();
    this.lastEdits = answer.edits as Record<string, unknown>[];
    set({ notice: { kind: 'info', text: `${answer.sentence}.` }, shadows: [] });
    this.refresh(answer.stale);
    this.sync?.send(answer);
    this.foretell();
    return true;
  }

  /** Offers more copies after one that was dragged off; set by what prepares them. */
  moreLikeIt: () => void = () => undefined;

  /** The edits of the last own step, for doing the same to something else. */
  lastEdits: Record<string, unknown>[] = [];

  /** Takes the last step back or does it again; with a number, all steps up to that one. */
  async restore(kind: 'undo' | 'redo', to?: number): Promise<void> {
    this.putBack();
    set({ shadows: [] });
    if (to === undefined && ownSettings().selectionSteps) {
      const selection = this.selections.step(kind, get().selection);
      if (selection) {
        this.select(
          selection.filter((id) => get().byId.has(id)),
          false,
        );
        return;
      }
    }
    const answer = await this.sync?.restore(kind, to);
    if (answer) {
      // What was picked when the step was made is picked again.
      const ids = (answer.step.picked.length > 0 ? answer.step.picked : answer.changed.map((n) => n.id)).filter(
        (id) => (get().byId.get(id)?.kind ?? 'collection') !== 'collection',
      );
      if (ids.length > 0 && ids.length <= 1000) this.select(ids, false);
      this.say({ kind: 'info', text: `${kind === 'undo' ? 'Undone' : 'Done again'}: ${answer.step.sentence}.` });
    }
    this.foretell();
  }

  /** Puts the camera that is looked through where the view stands. */
  steer(camera: string, view: number[], keep: boolean): void {
    const edit = { do: 'steer', node: camera, view };
    if (keep) {
      this.keep(edit);
      return;
    }
    const refusal = this.core.tryEdits([edit]);
    if (refusal) this.say({ kind: 'refusal', text: refusal.detail });
    set({ trying: true });
    this.picture?.worldsChanged(false);
    this.readLead();
  }

  /** A stored picture of the scene, for surfaces. */
  async fetchPicture(hash: string): Promise<ImageBitmap | null> {
    const id = get().scene?.id;
    if (!id) return null;
    return api
      .picture(id, hash)
      .then((blob) => createImageBitmap(blob))
      .catch(() => null);
  }

  say(notice: Notice | null): void {
    set({ notice });
  }

  /** Runs a call that the server may refuse, and says so in the sentence when it does. */
  async guarded(act: () => Promise<void>): Promise<void> {
    try {
      await act();
    } catch (error) {
      const text =
        error instanceof Refused
          ? error.detail
          : error instanceof OutOfReach
            ? 'The server is out of reach. Try again when it is back.'
            : `Something went wrong: ${String(error)}`;
      this.say({ kind: 'refusal', text });
    }
  }

  saveSettings(change: Settings): void {
    this.replaceSettings({ ...get().settings, ...change });
  }

  /** Sets everything anew; a slider that is dragged is sent once it rests. */
  replaceSettings(settings: Settings): void {
    const recolors = settings.collectionColors !== get().settings.collectionColors;
    set({ settings });
    if (recolors && get().scene) {
      this.readSight();
      this.picture?.sightChanged();
    }
    clearTimeout(this.saving);
    this.saving = setTimeout(() => this.flushSettings(), 250);
  }

  /** Sends the settings where they wait to be sent. */
  private flushSettings(): void {
    if (this.saving === undefined) return;
    clearTimeout(this.saving);
    this.saving = undefined;
    void this.guarded(async () => void (await api.saveSettings(get().settings)));
  }

  private saving: ReturnType<typeof setTimeout> | undefined;

  /** Shows edits as they would be, without making them; nothing: what is shown is put back. */
  preview(edits: object[]): boolean {
    if (edits.length === 0) {
      this.core.putBack();
      this.picture?.worldsChanged(true);
      set({ notice: null });
      this.readLead();
      return true;
    }
    const refusal = this.core.tryEdits(edits);
    this.say(refusal && { kind: 'refusal', text: refusal.detail });
    this.picture?.worldsChanged(true);
    this.readLead();
    return refusal === null;
  }

  setAnchor(anchor: Vec3, of: 'own' | 'world', keep: 'world' | 'numbers'): void {
    this.keep({ do: 'movePivot', nodes: get().selection, to: { anchor, of }, keep });
  }
}

const identity = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

export const session = new Session();
