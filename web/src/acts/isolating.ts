import { get, set, noFilter, type TreeFilter } from '../state/store';
import { session } from './session';

/** Shows only some objects for now. */
export function isolate(ids: string[], withBranch = true, dim = get().isolation?.dim ?? false): void {
  const isolation = ids.length === 0 ? null : { ids, withBranch, dim };
  session.core.isolate(ids, withBranch);
  set({ isolation });
  session.readSight();
  session.picture?.sightChanged();
}

/** I: isolates what is picked; pressed again, everything is back. */
export function toggleIsolation(): void {
  const { isolation, selection } = get();
  if (isolation) {
    isolate([]);
    session.say({ kind: 'info', text: 'Everything is shown again, as far as its switches go.' });
  } else if (selection.length === 0) session.say({ kind: 'info', text: 'Pick what is to be shown alone.' });
  else isolate(selection);
}

export function addToIsolation(): void {
  const { isolation, selection } = get();
  if (isolation) isolate([...new Set([...isolation.ids, ...selection])], isolation.withBranch);
}

export function leaveOutOfIsolation(): void {
  const { isolation, selection } = get();
  if (!isolation) return;
  const rest = isolation.ids.filter((id) => !selection.includes(id));
  if (rest.length === isolation.ids.length)
    session.say({
      kind: 'info',
      text: 'These are shown because what carries them is. Show that without its branch first.',
    });
  else isolate(rest, isolation.withBranch);
}

export function filterTree(change: Partial<TreeFilter> | null): void {
  set({ treeFilter: change === null ? noFilter : { ...get().treeFilter, ...change } });
}
