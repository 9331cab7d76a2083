import { Core } from '../core/core';
import type { Heard } from '../core/answers';
import { takeAhead } from '../api/ahead';
import { api, OutOfReach, Refused, type OwnSettings, type Progress, type StepAnswer } from '../api/client';
import { Sync } from '../api/sync';
import { rememberedOpening } from '../state/opening';
import { usedScene } from '../state/lastScenes';
import { fitting, recall } from '../state/remembered';
import { cleaned } from '../state/settings';
import { overScene } from '../state/pageSlice';
import { putAllBack } from '../state/renewal';
import { withoutPlaces } from '../state/sentenceSlice';
import { atRest, beginning, get, set } from '../state/store';
import { rememberedMark } from './currentMark';
import { fetchGeometry, forgetGeometry } from './fetching';
import { forgetGone, readMaterials, readShots, readSight, refresh, selectionChanged } from './following';
import { setAside } from './history';
import { listPictures } from './keptPictures';
import { listSoon, listStills } from './stills';
import { endAll } from './doing';
import { guarded, open, say } from './open';
import { closedAtFirst, inTree, readOutline } from './outlineRows';
import { flushSettings } from './saving';
import { pictureScene } from './scenePictures';
import { selections } from './selecting';
import { goOn, putBack } from './trial';
import { unwatch, watch } from './watching';

/** What others are told as scenes are opened, followed and left. */
export const loading: {
  /** The scene that is being removed from here. */
  removing: string | null;
  /** The server tells how far something long is. */
  progressed: (progress: Progress) => void;
  /** Another scene comes: what was kept of the one before goes. */
  left: () => void;
  /** The scene has changed by what others did, or was read anew. */
  followed: () => void;
} = { removing: null, progressed: () => undefined, left: () => undefined, followed: () => undefined };

/** Scenes that were left while a call was under way. */
const leaving = new Map<string, Promise<void>>();
let opening = 0;

/** Starts the page: the core, the person's settings, and the scene of the link, or the first. */
export async function start(): Promise<void> {
  try {
    const booting = Core.boot();
    window.addEventListener('beforeunload', (event) => {
      if (open.outbox.wouldLose || get().making) event.preventDefault();
    });
    window.addEventListener('pagehide', () => void flushSettings());
    await begin(async () => {
      open.core = await booting;
      open.core.setComma(new Intl.NumberFormat(navigator.language).format(1.5).includes(','));
    });
  } catch (error) {
    set({ failed: error instanceof OutOfReach ? 'The server is out of reach. Start it and reload.' : String(error) });
  }
}

/** Enters by the link. What the server has to say, the document of the scene too, is asked for while the core comes up. */
async function begin(booted: () => Promise<void>): Promise<void> {
  const wanted = new URLSearchParams(location.search).get('scene');
  const linked = wanted === null ? null : ahead(wanted);
  const [settings, listed] = await Promise.all([
    api.settings().catch((): OwnSettings => ({})),
    api.scenes().then((scenes) => {
      const first = scenes.find((s) => s.id === wanted) ?? scenes.find((s) => s.id === 'orrery-room') ?? scenes[0];
      return { scenes, first, document: first && first.id !== wanted ? ahead(first.id) : linked };
    }),
    booted(),
  ]);
  const { scenes, first, document } = listed;
  set({ settings: cleaned(settings), scenes });
  if (first) await openScene(first.id, false, document);
  else set({ ready: true });
  if (wanted !== null && first?.id !== wanted) {
    say({
      kind: 'warning',
      text: `The scene of this link is gone.${first ? ` This is ${first.name}; choose another in the list of scenes.` : ''}`,
    });
    set({ open: 'scenes' });
  }
  for (const scene of await open.outbox.scenes()) void deliver(scene);
}

/** The document of a scene, asked for before it can be opened; null where that failed, or where steps of it have to be sent first. */
async function ahead(id: string): Promise<Uint8Array | null> {
  if ((await open.outbox.scenes()).includes(id)) return null;
  return takeAhead(id) ?? api.document(id).catch(() => null);
}

/**
 * Leaves the scene and puts all back as it is before a page begins: the person may be another afterwards. The core, what was fetched and
 * what the graphics card knows stay, so that `renew` costs a tenth of a reload. For the end-to-end tests, which go from story to story in
 * one page.
 */
export async function rest(): Promise<void> {
  opening++;
  endAll();
  await flushSettings();
  unwatch();
  const scene = open.sync?.scene;
  leave(false);
  if (scene) await leaving.get(scene);
  loading.left();
  selections.clear();
  putAllBack();
  set({ ...beginning, ready: true, life: get().life + 1 });
  open.picture?.rebuild();
}

/** Enters a scene as a reload with its link would. */
export async function renew(scene: string): Promise<void> {
  await rest();
  history.replaceState(null, '', `?scene=${encodeURIComponent(scene)}`);
  await begin(() => Promise.resolve());
}

export async function listScenes(): Promise<void> {
  set({ scenes: await api.scenes() });
}

/**
 * Opens a scene: what was not sent yet of it goes first, then it is fetched whole with its geometry, and only when all is
 * there does the page change over. The same scene is read anew under what is being tried or prepared.
 */
export async function openScene(
  id: string,
  keepView = false,
  fetched: Promise<Uint8Array | null> | null = null,
): Promise<void> {
  const turn = ++opening;
  const isLate = () => turn !== opening;
  await leaving.get(id);
  await open.outbox.deliver(id, (text) => say({ kind: 'refusal', text }));
  const document = (await fetched) ?? (await api.document(id));
  if (isLate()) return;
  const { revision, geometries } = open.core.load(document);
  await fetchGeometry(id, geometries);
  if (isLate()) return;
  const same = open.sync?.scene === id;
  if (same && (open.sync!.waiting > 0 || open.core.revision() > revision)) {
    // Something was done meanwhile that is not in it yet.
    setTimeout(() => isLate() || void readAnew(id), 1000);
    return;
  }
  unwatch();
  if (!same) leave();
  const { ongoing } = open.core.open();
  if (!same) forgetGeometry(geometries);
  const rows = open.core.outline();
  const summary = get().scenes.find((s) => s.id === id);
  const unit = summary?.unit ?? get().scene?.unit ?? 'm';
  if (!same) {
    set({
      ready: true,
      scene: { id, name: summary?.name ?? 'Scene', unit },
      ...atRest,
      ...withoutPlaces(get()),
      closed: rememberedOpening(id) ?? closedAtFirst(rows.filter(inTree)),
      currentMark: rememberedMark(id),
      // What was opened over the stage was about the scene that is left.
      ...(overScene.has(get().open) ? { open: null } : {}),
    });
    loading.left();
    selections.clear();
  }
  usedScene(id);
  history.replaceState(null, '', `?scene=${encodeURIComponent(id)}`);
  readOutline(rows);
  readMaterials();
  readShots();
  const memory = same ? null : recall(id);
  if (memory) set(fitting(memory, get()));
  if (memory?.shot && get().shots.some((s) => s.id === memory.shot)) {
    open.core.setScope(memory.shot, false, get().asInShot);
    set({ shot: memory.shot });
    readOutline(open.core.outline());
  }
  const { isolation } = get();
  open.core.isolate(isolation?.ids ?? [], isolation?.withBranch ?? true);
  forgetGone();
  readSight();
  open.picture?.rebuild();
  if (!keepView && !same) open.picture?.startView(memory);
  selectionChanged();
  if (same) {
    loading.followed();
    goOn(ongoing);
    open.sync!.reopened();
  } else connect(id);
  void listSelections();
  void listPictures();
  void listStills();
}

/** Reads the open scene anew, for as long as it takes. */
async function readAnew(id: string): Promise<void> {
  if (open.sync?.scene !== id) return;
  try {
    await openScene(id, true);
  } catch (error) {
    if (error instanceof Refused) say({ kind: 'refusal', text: error.detail });
    else setTimeout(() => void readAnew(id), 3000);
  }
}

/** Lets go of the scene that is open. What was not sent yet is sent in the background. */
function leave(pictured = true): void {
  putBack();
  if (pictured) void pictureScene();
  const { sync } = open;
  if (!sync) return;
  open.sync = null;
  const closing = sync.close().finally(() => leaving.delete(sync.scene));
  leaving.set(sync.scene, closing);
  void closing.then(() => deliver(sync.scene));
}

/** Delivers what was left behind of a scene, for as long as it takes. */
function deliver(scene: string): Promise<void> {
  return open.outbox
    .deliver(scene, (text) => say({ kind: 'refusal', text }))
    .catch(() => void setTimeout(() => void deliver(scene), 3000));
}

export async function listSelections(): Promise<void> {
  const id = get().scene?.id;
  if (!id) return;
  const named = await api.selections(id).catch(() => []);
  if (get().scene?.id === id) set({ named });
}

function connect(id: string): void {
  const sync = new Sync(open.core, id, open.outbox, {
    heard,
    hearing: unwatch,
    trying: watch,
    setAside: (step) => setAside(id, step),
    refused: (text) => say({ kind: 'refusal', text }),
    state: ({ online, waiting, step, wellness }) =>
      set({ online, waiting, wellness, ...(step === undefined ? {} : { stepNumber: step }) }),
    described: (name, unit) => {
      set({ scene: { id, name, unit } });
      open.core.setUnit(unit);
    },
    reload: () => void readAnew(id),
    gone: () => void goneFrom(id),
    picked: (page, nodes) => {
      const others = { ...get().others };
      if (nodes.length === 0) delete others[page];
      else others[page] = nodes;
      set({ others });
    },
    stills: listSoon,
    progress: (progress) => loading.progressed(progress),
  });
  open.sync = sync;
  // What was still under way of the scene before is delivered in the background, and not counted here.
  set({ online: true, waiting: 0 });
  void sync.connect().then(() => sync.tellPicked(get().selection));
}

function heard(what: Heard): void {
  refresh(what.stale);
  for (const dropped of what.dropped) say({ kind: 'refusal', text: dropped.detail });
  loading.followed();
  goOn(what.ongoing);
}

/** A step that was made by a call of its own, as an import is. */
export function follows(answer: StepAnswer): void {
  open.sync?.told(answer);
}

/** The open scene was removed by somebody else: said at once, with the list of the others. */
async function goneFrom(id: string): Promise<void> {
  if (open.sync?.scene !== id || loading.removing === id) return;
  const name = get().scene?.name ?? 'The scene';
  await guarded(() => listScenes());
  const next = get().scenes[0];
  if (next) await guarded(() => openScene(next.id));
  say({
    kind: 'warning',
    text: `${name} was removed in another window. ${next ? `This is ${next.name}.` : ''}`,
  });
  set({ open: 'scenes' });
}
