import {
  Core,
  isRefusal,
  type Kept,
  type OutlineRow,
  type Refusal,
  type SnapRequest,
  type Stale,
  type Tried,
  type Vec3,
} from '../core/bridge';
import { api, OutOfReach, Refused, type Settings } from '../api/client';
import { Sync } from '../api/sync';
import { amountAlong, quantityOf, template, type Template } from './edits';
import { SelectionSteps } from './selectionSteps';
import { cleaned, ownSettings } from './settings';
import { rememberedMark } from './currentMark';
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
  /** The point that the active view looks at. */
  focus(): Vec3;
  frame(ids: string[] | null, glide: boolean): void;
  startView(): void;
}

/** The one place where the page acts: opens scenes, tries and keeps edits, and keeps the store in step with the core. */
class Session {
  core!: Core;
  picture: Picture | null = null;
  private sync: Sync | null = null;
  private opening = 0;
  private readonly selections = new SelectionSteps();

  async start(): Promise<void> {
    try {
      const [core, settings] = await Promise.all([Core.boot(), api.settings().catch((): Settings => ({}))]);
      this.core = core;
      set({ settings: cleaned(settings as Record<string, unknown>) });
      await this.listScenes();
      const wanted = new URLSearchParams(location.search).get('scene');
      const scenes = get().scenes;
      const first = scenes.find((s) => s.id === wanted) ?? scenes.find((s) => s.id === 'orrery-room') ?? scenes[0];
      if (first) await this.open(first.id);
      else set({ ready: true });
    } catch (error) {
      set({ failed: error instanceof OutOfReach ? 'The server is out of reach. Start it and reload.' : String(error) });
    }
  }

  async listScenes(): Promise<void> {
    set({ scenes: await api.scenes() });
  }

  async open(id: string, keepView = false): Promise<void> {
    const turn = ++this.opening;
    const summary = get().scenes.find((s) => s.id === id);
    const document = await api.document(id);
    if (turn !== this.opening) return;
    this.sync?.close();
    this.core.open(document);
    const rows = this.core.outline();
    await this.fetchGeometry(id, rows);
    const same = get().scene?.id === id;
    const selection = same ? get().selection.filter((n) => rows.some((r) => r.id === n)) : [];
    const unit = summary?.unit ?? get().scene?.unit ?? 'm';
    set({
      ready: true,
      scene: { id, name: summary?.name ?? 'Scene', unit },
      selection,
      trying: false,
      reading: null,
      closed: same ? get().closed : (rememberedOpening(id) ?? closedAtFirst(rows.filter(inTree))),
      shadows: [],
      named: [],
      plan: null,
      others: {},
      ...(same ? {} : { isolation: null, treeFilter: noFilter }),
      currentMark: rememberedMark(id),
    });
    if (!same) this.selections.clear();
    history.replaceState(null, '', `?scene=${encodeURIComponent(id)}`);
    const { isolation } = get();
    if (isolation) this.core.isolate(isolation.ids, isolation.withBranch);
    readOutline(rows);
    this.readSight();
    this.picture?.rebuild();
    if (!keepView && !same) this.picture?.startView();
    this.selectionChanged();
    this.connect(id);
    void this.listSelections();
  }

  async listSelections(): Promise<void> {
    const id = get().scene?.id;
    if (!id) return;
    const named = await api.selections(id).catch(() => []);
    if (get().scene?.id === id) set({ named });
  }

  private connect(id: string): void {
    const sync = new Sync(this.core, id, {
      stale: (stale) => this.refresh(stale),
      refused: (text) => this.say({ kind: 'refusal', text }),
      state: ({ online, waiting, step }) =>
        set({ online, waiting, ...(step === undefined ? {} : { stepNumber: step }) }),
      described: (name, unit) => {
        set({ scene: { id, name, unit } });
        this.core.setUnit(unit);
      },
      reload: () => void this.open(id, true).catch(() => undefined),
      picked: (page, nodes) => {
        const others = { ...get().others };
        if (nodes.length === 0) delete others[page];
        else others[page] = nodes;
        set({ others });
      },
    });
    this.sync = sync;
    void sync.connect().then(() => sync.tellPicked(get().selection));
  }

  private async fetchGeometry(id: string, rows: OutlineRow[]): Promise<void> {
    const missing = [
      ...new Set(rows.map((r) => r.geometry).filter((g): g is string => g !== null && !this.geometry.has(g))),
    ];
    for (const hash of missing) {
      const bytes = await api.geometry(id, hash);
      this.geometry.set(hash, bytes);
      this.core.addGeometry(hash, bytes);
    }
  }

  /** What an own edit made is known to the core before the server has it. */
  private takeMade(rows: OutlineRow[]): boolean {
    let missing = false;
    for (const { geometry } of rows) {
      if (geometry === null || this.geometry.has(geometry)) continue;
      const bytes = this.core.knownGeometry(geometry);
      if (bytes.length > 0) this.geometry.set(geometry, bytes);
      else missing = true;
    }
    return missing;
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
      const selection = get().selection.filter((n) => get().byId.has(n));
      if (selection.length !== get().selection.length) set({ selection });
      if (this.takeMade(rows) && id) {
        void this.fetchGeometry(id, rows).then(() => this.picture?.rebuild());
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
    if (get().plan) set({ plan: null, shadows: [], ...(get().picking === 'parent' ? { picking: null } : {}) });
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
    const understood = this.core.understand(text, quantityOf(get().verb), false, 0);
    if (isRefusal(understood)) {
      this.say({ kind: 'refusal', text: understood.detail });
      return false;
    }
    if (!get().trying && !this.begin()) return false;
    const { typeTo, verb, axes } = get();
    const tried = typeTo ? this.core.tryTo(understood.value, axes[verb]) : this.core.try(amountAlong(understood.value));
    return this.tried(tried).refused === null;
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
    if (this.afterKeeping(answer) && copies) this.pickQuietly(copies);
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
    this.saving = setTimeout(() => void this.guarded(async () => void (await api.saveSettings(get().settings))), 250);
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
