import { api, type StepEntry } from '../api/client';
import type { Unsent } from '../api/outbox';
import { ownSettings } from '../state/ownSettings';
import { get, set } from '../state/store';
import { foretell } from './following';
import { keep } from './keeping';
import { guarded, open, say } from './open';
import { select, selections } from './selecting';
import { putBack } from './trial';
import { onRenewal } from '../state/renewal';

/** Takes the last step back or does it again; with a number, all steps up to that one. */
export async function restore(kind: 'undo' | 'redo', to?: number): Promise<void> {
  putBack();
  set({ shadows: [] });
  if (to === undefined && ownSettings().selectionSteps) {
    const selection = selections.step(kind, get().selection);
    if (selection) {
      select(
        selection.filter((id) => get().byId.has(id)),
        false,
      );
      return;
    }
  }
  const answer = await open.sync?.restore(kind, to);
  // What older steps say of being undone may be otherwise now.
  if (to !== undefined) set({ steps: get().steps.slice(-1000) });
  if (answer) {
    // What was picked when the step was made is picked again.
    const ids = (answer.step.picked.length > 0 ? answer.step.picked : answer.changed.map((n) => n.id)).filter(
      (id) => (get().byId.get(id)?.kind ?? 'collection') !== 'collection',
    );
    if (ids.length > 0 && ids.length <= 1000) select(ids, false);
    say({ kind: 'info', text: `${kind === 'undo' ? 'Undone' : 'Done again'}: ${answer.step.sentence}.` });
  }
  foretell();
}

/** Steps that the server failed on, to be tried again in their scene. */
let aside: { scene: string; step: Unsent }[] = [];

export function hasAside(): boolean {
  return aside.some(({ scene }) => scene === open.sync?.scene);
}

export function setAside(scene: string, step: Unsent): void {
  if (step.call === 'edits') aside.push({ scene, step });
  say({
    kind: 'refusal',
    text: `The server fails on “${step.sentence}” again and again, so that was taken back and set aside. All else is stored.`,
    ...(step.call === 'edits' ? { act: { word: 'Try it again', do: () => tryAside() } } : {}),
  });
}

/** Makes what was set aside again, as steps of their own. */
export function tryAside(): void {
  const here = aside.filter(({ scene }) => scene === open.sync?.scene);
  aside = aside.filter((one) => !here.includes(one));
  for (const { step } of here) keep(...(step.edits ?? []));
}

/** The step that is asked about last; answers for others come too late. */
let shown: number | null = null;

/** So many steps are asked for at once. */
const stepsAtOnce = 300;

/** What is listed belongs to this scene. */
let listed: string | null = null;

/** Whether there are older steps than those that are listed. */
let older = true;

/** Reads the latest steps anew; older ones that were listed stay, where they follow on. */
export async function listSteps(): Promise<void> {
  await guarded(async () => {
    const id = get().scene?.id;
    if (!id) return;
    const before = listed === id ? get().steps : [];
    const most = Math.min(1000, Math.max(stepsAtOnce, before.length));
    const latest = await api.steps(id, most);
    if (get().scene?.id !== id) return;
    const first = latest[0]?.number ?? 0;
    const kept = before.filter((s) => s.number < first);
    const follows = kept.length > 0 && before.some((s) => s.number === first);
    if (!follows) older = latest.length === most;
    listed = id;
    set({ steps: follows ? [...kept, ...latest] : latest });
  });
}

let fetching = false;

/** Fetches the steps before those that are listed. */
export async function listOlderSteps(): Promise<void> {
  const { scene, steps } = get();
  if (fetching || !older || !scene || listed !== scene.id || steps.length === 0) return;
  fetching = true;
  await guarded(async () => {
    const more = await api.steps(scene.id, stepsAtOnce, steps[0]!.number);
    if (listed !== scene.id || get().steps[0]?.number !== steps[0]!.number) return;
    older = more.length === stepsAtOnce;
    set({ steps: [...more, ...get().steps] });
  });
  fetching = false;
}

/** Shows on the stage what a step moved and from where; null: nothing any more. */
export async function showStep(step: StepEntry | null): Promise<void> {
  shown = step?.number ?? null;
  const id = get().scene?.id;
  if (!step || !id) {
    if (get().shadows.length > 0) set({ shadows: [] });
    open.picture?.draw();
    return;
  }
  const changes = await api.stepChange(id, step.number).catch(() => []);
  if (shown !== step.number) return;
  set({ shadows: open.core.shadows(changes, step.undone) });
  open.picture?.draw();
}

onRenewal(() => {
  aside = [];
  shown = null;
  listed = null;
  older = true;
});
