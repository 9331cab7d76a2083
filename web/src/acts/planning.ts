import type { NewNode } from '../wire/apiTypes';
import { isRefusal, type Edit, type Vec3 } from '../core/answers';
import { sized, usedShape } from './usualShapes';
import { editsOf, freshIds, madeBy, type Ask } from './plans';
import { standsAlone, type CopyStep, type Plan } from '../state/plan';
import { rememberFocus, returnFocus } from './focus';
import { kept } from './keeping';
import { usedCollection } from './lastCollection';
import { loading } from './loader';
import { session } from './session';
import { get, set, type AddWhere, type Picking } from '../state/store';

/** What plans ask. */
export const ask: Ask = {
  viewWorld: () => session.picture?.viewWorld() ?? [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1],
  tops: (ids) => session.core.tops(ids),
  mostCopies: () => session.core.limits.copies,
};

/** Begins to prepare something in the sentence. */
export function startPlan(plan: Plan): void {
  session.putBack();
  freshIds();
  rememberFocus();
  set({ plan, notice: null, picking: asksFor(plan) });
  foresee();
}

/** Keeps edits at once where they do nothing besides; else what they would do is said first, and a second press keeps them. */
export function keepIfSure(says: [before: string, after: string], of: string[], ...edits: Edit[]): void {
  const { plan } = get();
  if (plan?.kind === 'sure' && JSON.stringify(plan.edits) === JSON.stringify(edits)) keepPlan();
  else startIfSure({ kind: 'sure', says, of, edits }, () => session.keep(...edits));
}

/** Begins to prepare something where there is something to be said of it beforehand; else it is done at once. What cannot be done is tried otherwise. */
export function startIfSure(plan: Plan, otherwise: () => void = keepPlan): void {
  startPlan(plan);
  const { foretold, notice } = get();
  if (notice === null) {
    // Nothing rides along and nothing refers to it: there is nothing to ask.
    if (foretold === null) keepPlan();
  } else {
    // What cannot be done is refused with the ways out of it.
    leavePlan();
    otherwise();
  }
}

/** What a press is asked for when something begins to be prepared. */
function asksFor(plan: Plan): Picking | null {
  if (plan.kind === 'under' && plan.waiting) return 'parent';
  return plan.kind === 'mount' || (plan.kind === 'tie' && plan.link !== 'limit') ? 'target' : null;
}

export function changePlan(change: Partial<Plan>): void {
  const { plan } = get();
  if (!plan) return;
  set({ plan: { ...plan, ...change } as Plan, notice: null });
  foresee();
}

/** Shows the plan as it would be with a word that is hovered; nothing: as it is. */
export function hoverPlan(change: Partial<Plan> | null): void {
  foresee(change);
}

/** Shows what the plan would make, and says what it would do besides. */
function foresee(hovered: Partial<Plan> | null = null): void {
  const { plan: prepared, selection } = get();
  const plan = prepared && ({ ...prepared, ...hovered } as Plan);
  const edits = plan && editsOf(plan, ask);
  showThreads(plan, edits, selection);
  if (!edits) {
    set({ shadows: [], newcomers: [], foretold: null });
    session.picture?.draw();
    return;
  }
  const foreseen = session.core.foresee(edits);
  if (isRefusal(foreseen)) set({ shadows: [], newcomers: [], notice: { kind: 'refusal', text: foreseen.detail } });
  else {
    const shadows = foreseen.ghosts.map((g) => ({ ...g, from: g.from ?? g.to }));
    set({ shadows, newcomers: foreseen.added, foretold: foreseen.foretold });
  }
  session.picture?.draw();
}

/** The threads that a plan would make, with the axis that would aim; before that is known, all own axes of the lead. */
function showThreads(plan: Plan | null, edits: Edit[] | null, selection: string[]): void {
  const ties = plan?.kind === 'tie' || plan?.kind === 'mount' || plan?.kind === 'give' || plan?.kind === 'drive';
  if (!ties) {
    if (get().prepared) set({ prepared: null });
    return;
  }
  const threads = edits ? session.core.threadsOf(selection.slice(-40), edits) : [];
  const faces = plan.kind === 'tie' && (plan.link === 'aim' || plan.link === 'swivel' || plan.link === 'turnTo');
  set({
    prepared: { threads, axesOf: faces ? selection.at(-1)! : null, axis: plan.kind === 'tie' ? plan.axis : null },
  });
}

/** After a copy was dragged off: as many more, each by the same step from the one before. */
kept.moreLikeIt = () => {
  const by = kept.edits.flatMap((edit) => {
    if (edit.do !== 'move' && edit.do !== 'rotate' && edit.do !== 'scale') return [];
    const { nodes: _nodes, ...repeat } = edit;
    return [repeat];
  });
  if (by.length > 0) startPlan({ kind: 'more', count: 2, by });
};

/** What is prepared follows what others do meanwhile. */
loading.followed = () => {
  const { plan, selection, byId } = get();
  if (!plan) return;
  if (selection.length === 0 && !standsAlone(plan)) {
    leavePlan();
    session.say({ kind: 'info', text: 'What this was about was removed meanwhile, so nothing is prepared any more.' });
  } else if (plan.kind === 'under' && plan.parent !== null && !byId.has(plan.parent)) {
    changePlan({ parent: null, waiting: true });
    set({ picking: 'parent' });
    session.say({ kind: 'info', text: 'The parent was removed meanwhile. Press another.' });
  } else if ((plan.kind === 'tie' || plan.kind === 'mount') && plan.target !== null && !byId.has(plan.target)) {
    changePlan({ target: null });
    set({ picking: 'target' });
    session.say({ kind: 'info', text: 'The target was removed meanwhile. Press another.' });
  } else if (plan.kind === 'collect' && plan.collection !== null && !byId.has(plan.collection)) {
    changePlan({ collection: null });
  } else foresee();
};

/** Whether something is prepared of which nothing is lacking. */
export function isWhole(): boolean {
  const { plan } = get();
  return plan !== null && editsOf(plan, ask) !== null;
}

/** Makes what is prepared, as one step. */
export function keepPlan(): void {
  const { plan } = get();
  if (!plan) return;
  const edits = editsOf(plan, ask);
  if (!edits) {
    const wanted = plan.kind === 'under' ? 'parent' : 'target';
    session.say({ kind: 'info', text: `Press the ${wanted}, on the stage or in the tree.` });
    return;
  }
  const made = madeBy(edits);
  const picked =
    plan.kind === 'remove' ? [] : plan.kind === 'join' ? get().selection.slice(-1) : made.length > 0 ? made : null;
  if (!(picked ? session.keepAndPick(edits, picked) : session.keep(...edits))) return;
  returnFocus();
  set({ plan: null, shadows: [], newcomers: [], prepared: null, picking: null });
  if (plan.kind === 'add') usedShape(plan.node);
  if (plan.kind === 'collect') {
    const [edit] = edits;
    if (edit?.do === 'collect') usedCollection(edit.collection);
    if (edit?.do === 'collection') {
      usedCollection(edit.id!);
      set({ renaming: edit.id! });
    }
  }
  session.foretell();
}

export function leavePlan(): void {
  if (!get().plan) return;
  returnFocus();
  set({ plan: null, shadows: [], newcomers: [], prepared: null, picking: null, notice: null });
  session.foretell();
  session.picture?.draw();
}

/** A press while the parent of a plan is asked for; nothing: what is picked is taken out to the top. */
export function takeParent(id: string | null): void {
  const { selection, plan, byId } = get();
  if (plan?.kind !== 'under') return;
  if (id !== null && selection.includes(id)) {
    session.say({ kind: 'info', text: `${byId.get(id)?.name} is what is put under something. Press another object.` });
    return;
  }
  changePlan({ parent: id, waiting: false });
  set({ picking: 'parent' });
}

/** A press while a target is asked for, or what up is toward. */
export function takeTarget(id: string): void {
  const { selection, plan, picking, byId } = get();
  if (plan?.kind !== 'tie' && plan?.kind !== 'mount') return;
  const lead = selection.at(-1);
  // With several picked, the lead can be what the others go by.
  const self = selection.includes(id) && (plan.kind === 'mount' || selection.length === 1 || id !== lead);
  if (self) {
    session.say({ kind: 'info', text: `${byId.get(id)?.name} is what turns. Press another object.` });
    return;
  }
  // Another press names another, until it is made or left.
  set({ picking: 'target' });
  changePlan(picking === 'upward' ? { up: { toward: id } } : { target: id });
}

/** A press while the face that is to aim is asked for: the direction out of it. */
export function takeFace(id: string, upright: Vec3): void {
  const { selection, plan, byId } = get();
  if (plan?.kind !== 'tie') return;
  if (!selection.includes(id)) {
    session.say({ kind: 'info', text: `That is ${byId.get(id)?.name}. Press a face of what aims.` });
    return;
  }
  set({ picking: 'target' });
  changePlan({ face: upright });
}

/** A press while a centre is asked for: the pivot of what was pressed. */
export function takeCentre(id: string): void {
  const [x, y, z] = session.core.pivotsOf([id]);
  set({
    picked: { point: [x!, y!, z!], normal: null, part: get().byId.get(id)?.name ?? '' },
    picking: null,
    notice: null,
  });
}

/** The usual step from copy to copy: beside the original. */
export function usualStep(): CopyStep {
  const amount = session.core.usualStep(get().selection);
  return { do: 'move', amount, axis: 'x', space: 'world', about: 'own' };
}

/** Adds an object: where it goes is said in the sentence first, unless nothing is picked that it could go to. */
export function add(node: NewNode, at: Vec3 | null = null): void {
  const { selection, byId, currentMark, addWhere } = get();
  const lead = byId.get(selection.findLast((id) => byId.get(id)?.kind !== 'mark') ?? '');
  if (lead) {
    // As chosen last; else into a group, and beside anything else.
    startPlan({ kind: 'add', node: sized(node), where: addWhere ?? (lead.kind === 'group' ? 'inside' : 'beside'), at });
    return;
  }
  if (node.shape) {
    // Its size is asked here, too; with nothing picked it is for nothing else.
    session.select([]);
    startPlan({ kind: 'add', node: sized(node), where: null, at });
    return;
  }
  const id = crypto.randomUUID();
  const mark = currentMark !== null && byId.has(currentMark) ? { mark: currentMark } : null;
  const to = at ? { point: at } : mark;
  session.keepAndPick([{ do: 'create', node: { id, ...node }, ...(to ? { at: to } : {}) }], [id]);
}

/** Where the new one goes that is being prepared, and those after it. */
export function addTo(where: AddWhere): void {
  set({ addWhere: where });
  changePlan({ where });
}
