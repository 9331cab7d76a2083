import { api, type StepEntry } from '../api/client';
import { session } from './session';
import { get, set } from './store';

/** The step that is asked about last; answers for others come too late. */
let shown: number | null = null;

/** Reads the history anew. */
export async function listSteps(): Promise<void> {
  await session.guarded(async () => {
    const id = get().scene?.id;
    if (id) set({ steps: await api.steps(id) });
  });
}

/** Shows on the stage what a step moved and from where; null: nothing any more. */
export async function showStep(step: StepEntry | null): Promise<void> {
  shown = step?.number ?? null;
  const id = get().scene?.id;
  if (!step || !id) {
    if (get().shadows.length > 0) set({ shadows: [] });
    session.picture?.draw();
    return;
  }
  const changes = await api.stepChange(id, step.number).catch(() => []);
  if (shown !== step.number) return;
  const nodes = changes.map((c) => (step.undone ? c.after : c.before)).filter((n) => n !== undefined);
  set({ shadows: session.core.shadows(nodes) });
  session.picture?.draw();
}
