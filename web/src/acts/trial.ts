import type { Edit, Ongoing, Refusal, Tried } from '../core/answers';
import type { SnapAsk } from '../core/pointerMove';
import { get, set, setQuietly, type PageState } from '../state/store';
import { tellDragged } from './dragging';
import { template, type Template } from './edits';
import { readLead, showAll, viewWorld } from './following';
import { open, say } from './open';
import { ownTrial, ownTrialEnds, unwatch } from './watching';

/** What is tried before it is kept: a drag, a typed amount, edits as a whole. The core computes it, nothing is stored yet. */

/** The edit of the sentence; in the active view, where no other is named. */
export function edit(view = viewWorld): Template | null {
  return template(view);
}

/** Begins to try the edit of the sentence. */
export function begin(): boolean {
  const t = edit();
  if (!t) return false;
  unwatch();
  const refusal = open.core.begin(t.edit, t.space);
  if (refusal) {
    say({ kind: 'refusal', text: refusal.detail });
    return false;
  }
  set({ trying: true, notice: null });
  return true;
}

export function grab(
  part: string,
  axis: number,
  view: number[],
  parallel: boolean,
  size: number,
  ray: number[],
): boolean {
  if (!begin()) return false;
  const refusal = open.core.grab(part, axis, view, parallel, size, ray);
  if (refusal) say({ kind: 'refusal', text: refusal.detail });
  return refusal === null;
}

/** Components are told of a drag this often at most, in milliseconds. */
const seldom = 200;

let told = 0;

/** Follows the pointer. What it says goes past React, which is told of it now and then, and of every refusal. */
export function dragTo(ray: number[], fine: boolean, step: number, snap: SnapAsk | null = null): Tried {
  const answer = open.core.dragTo(ray, fine, step, get().onGrid, snap);
  const change = changeOf(answer);
  const now = performance.now();
  if (now - told > seldom || change.notice?.text !== get().notice?.text || !change.caught !== !get().caught) {
    told = now;
    set(change);
  } else setQuietly(change);
  tellDragged(answer);
  open.picture?.worldsChanged(false);
  ownTrial();
  return answer;
}

/** Tries a typed text as the amount; false when it is not understood. */
export function tryText(text: string): boolean {
  // Nothing typed is nothing to try.
  if (text.trim() === '') return false;
  if (!get().trying && !begin()) return false;
  const { typeTo, verb, axes } = get();
  return tried(open.core.tryTyped(text, typeTo, axes[verb])).refused === null;
}

function tried(answer: Tried): Tried {
  set(changeOf(answer));
  ownTrial();
  open.picture?.worldsChanged(false);
  return answer;
}

/** What the page holds of a trial. */
function changeOf(answer: Tried): Pick<PageState, 'reading' | 'caught' | 'notice'> & Partial<PageState> {
  const { lead } = get();
  return {
    reading: answer.reading,
    caught: answer.caught,
    notice: answer.refused
      ? { kind: 'refusal', text: answer.refused.detail }
      : answer.reading.warning
        ? { kind: 'warning', text: answer.reading.warning }
        : null,
    ...(lead && answer.lead
      ? {
          lead: {
            ...lead,
            ...answer.lead,
            node: { ...lead.node, placement: { ...lead.node.placement, ...answer.lead.placement } },
          },
        }
      : {}),
  };
}

/** Shows what became of what is being tried, after the scene has changed under it. */
export function goOn(ongoing: Ongoing | null): void {
  if (!ongoing) return;
  if (!ongoing.goes) {
    set({ trying: false, reading: null, caught: null, alignTo: null });
    say({ kind: 'refusal', text: ongoing.said ?? 'What was being tried is put back.' });
  } else if (ongoing.tried) tried(ongoing.tried);
  if (ongoing.goes && ongoing.said) say({ kind: 'warning', text: ongoing.said });
  showAll();
}

export function putBack(): void {
  if (!get().trying) return;
  open.core.putBack();
  looksTried([]);
  ownTrialEnds();
  set({ trying: false, reading: null, caught: null, notice: null });
  showAll();
}

/** Materials that what is tried changes, and objects whose looks it changes. */
let looks: { materials: string[]; nodes: string[] } = { materials: [], nodes: [] };

/** What things look like while edits are tried, and when they are put back. */
function looksTried(edits: Edit[]): void {
  const before = looks;
  looks = {
    materials: edits.flatMap((e) => (e.do === 'setMaterial' ? [e.material] : [])),
    nodes: edits.flatMap((e) => (e.do === 'assign' || e.do === 'takeMaterial' ? e.nodes : [])),
  };
  const materials = [...new Set([...before.materials, ...looks.materials])];
  const nodes = [...new Set([...before.nodes, ...looks.nodes])];
  if (materials.length > 0) {
    const now = new Map(materials.map((id) => [id, open.core.materialOf(id)]));
    set({ materials: get().materials.map((m) => now.get(m.id) ?? m) });
    open.picture?.materialsChanged(materials);
  }
  if (nodes.length > 0) open.picture?.looksChanged(nodes);
}

/** Whether nothing stands elsewhere or casts another shadow for some edits: only how bright and in which colour it is lit changes. */
function isLightOnly(edits: Edit[]): boolean {
  const bright = ['do', 'nodes', 'mode', 'intensity', 'color', 'temperature'];
  return edits.every(
    (e) => e.do === 'setSurroundings' || (e.do === 'setLight' && Object.keys(e).every((key) => bright.includes(key))),
  );
}

/** What was tried last: nothing, light alone, or what may stand elsewhere. */
let shownBy: 'nothing' | 'light' | 'other' = 'nothing';

/** Shows edits as they would be, without making them; nothing: what is shown is put back. */
export function preview(edits: Edit[]): boolean {
  if (edits.length === 0) {
    open.core.putBack();
    looksTried([]);
    ownTrialEnds();
    set({ notice: null });
    showAll(shownBy !== 'light');
    shownBy = 'nothing';
    return true;
  }
  const worlds = get().trying || shownBy === 'other' || !isLightOnly(edits);
  shownBy = worlds ? 'other' : 'light';
  const refusal = open.core.tryEdits(edits);
  looksTried(refusal === null ? edits : []);
  if (refusal === null) ownTrial();
  say(refusal && { kind: 'refusal', text: refusal.detail });
  showAll(worlds);
  return refusal === null;
}

/** Tries one edit as it is, again and again while something is dragged; false: it is refused, and what was tried is back. */
export function tryEdit(one: Edit): boolean {
  return isTried(open.core.tryEdits([one]));
}

function isTried(refusal: Refusal | null): boolean {
  say(refusal && { kind: 'refusal', text: refusal.detail });
  set({ trying: true });
  if (refusal === null) ownTrial();
  open.picture?.worldsChanged(false);
  readLead();
  return refusal === null;
}

/** Shows the camera that is looked through where the view stands. */
export function trySteering(camera: string, view: number[]): void {
  isTried(open.core.trySteer(camera, view));
}
