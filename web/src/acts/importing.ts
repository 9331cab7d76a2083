import { api } from '../api/client';
import type { Vec3 } from '../core/answers';
import { longWork } from './longWork';
import { session } from './session';
import { within } from './shots';
import { get } from '../state/store';
import { onRenewal } from '../state/renewal';

/** Where a file goes: into a new scene, or into the open one. */
export type ImportTo = { to: 'new' } | { to: 'here' } | { to: 'under' } | { to: 'point'; point: Vec3 };

let chosen: ImportTo = { to: 'new' };

/** Asks for a file, which then goes there. */
export function askForFile(to: ImportTo): void {
  chosen = to;
  document.querySelector<HTMLInputElement>('[data-import]')?.click();
}

/** Brings a file in; where, was said before, else into a new scene. */
export async function importFile(file: File, to: ImportTo = chosen): Promise<void> {
  chosen = { to: 'new' };
  await session.guarded(() => (to.to === 'new' ? intoNew(file) : intoOpen(file, to)));
}

async function intoNew(file: File): Promise<void> {
  const scene = await longWork(`Importing ${file.name}`, (asked) => api.import(file, asked));
  if (!scene) return;
  await session.listScenes();
  await session.open(scene.id);
  tell(`Imported ${file.name}`, get().rows.length, scene.notes);
}

async function intoOpen(file: File, to: ImportTo): Promise<void> {
  const { scene, selection, currentMark, byId } = get();
  if (!scene) return intoNew(file);
  const lead = selection.findLast((id) => !['mark', 'collection'].includes(byId.get(id)?.kind ?? 'mark'));
  const where =
    to.to === 'point'
      ? { at: to.point.join() }
      : to.to === 'under' && lead
        ? { under: lead }
        : currentMark !== null && byId.has(currentMark)
          ? { mark: currentMark }
          : {};
  const answer = await longWork(`Importing ${file.name}`, (asked) =>
    api.importInto(scene.id, file, { ...where, ...within() }, asked),
  );
  if (!answer) return;
  session.follows(answer);
  const tops = answer.changed.filter((n) => (n.parent ?? null) === (where.under ?? null)).map((n) => n.id);
  if (get().scene?.id === scene.id && tops.every((id) => get().byId.has(id))) session.select(tops);
  tell(answer.step.sentence, answer.changed.length, answer.notes);
}

function tell(what: string, count: number, given?: string[] | null): void {
  const notes = given ?? [];
  session.say(
    notes.length > 0
      ? { kind: 'warning', text: `${what}. ${notes.join(' ')}` }
      : { kind: 'info', text: what.includes('objects') ? `${what}.` : `${what}: ${count} objects.` },
  );
}

onRenewal(() => {
  chosen = { to: 'new' };
});
