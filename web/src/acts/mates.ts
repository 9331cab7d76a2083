import { session } from './session';
import { settingsOf } from '../state/settings';
import type { PageState } from '../state/store';

/** The other members of the collection that the lead belongs to; the first that has any. */
export interface Mates {
  collection: string;
  name: string;
  color: string;
  ids: string[];
}

/** More outlines than this would only be in the way. */
const most = 300;

let known: { selection: string[]; changes: number; scene: string | undefined; mates: Mates | null } | null = null;

/** The mates of the lead, where they are to be shown; asked of the core once after a change. */
export function matesOf(state: PageState): Mates | null {
  const lead = state.selection.at(-1);
  if (lead === undefined || !settingsOf(state.settings).mates || state.collections.length === 0) return null;
  const { selection } = state;
  const [scene, { changes }] = [state.scene?.id, session];
  if (known?.selection !== selection || known.changes !== changes || known.scene !== scene)
    known = { selection, changes, scene, mates: find(state, lead) };
  return known.mates;
}

function find(state: PageState, lead: string): Mates | null {
  const picked = new Set(state.selection);
  for (const { id } of session.core.whySeen(lead)?.collections ?? []) {
    const row = state.byId.get(id);
    const ids = session.core.membersOf(id).filter((member) => !picked.has(member));
    if (row && ids.length > 0)
      return { collection: id, name: row.name, color: row.color ?? '#857d70', ids: ids.slice(0, most) };
  }
  return null;
}
