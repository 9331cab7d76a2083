import { ownSettings } from '../state/ownSettings';
import { withoutPlaces } from '../state/sentenceSlice';
import { get, set } from '../state/store';
import { selectionChanged } from './following';
import { open } from './open';
import { SelectionSteps } from './selectionSteps';
import { putBack } from './trial';

/** What was picked between edits. */
export const selections = new SelectionSteps();

/** Picks; the last is the lead. What was prepared, asked for or tried about others ends. */
export function select(ids: string[], byHand = true): void {
  putBack();
  const before = get().selection;
  if (get().plan)
    set({ plan: null, shadows: [], newcomers: [], prepared: null, ...(asksForObject() ? { picking: null } : {}) });
  open.sync?.tellPicked(ids);
  if (byHand && ownSettings().selectionSteps && before.join() !== ids.join()) selections.changed(before);
  set({
    selection: ids,
    notice: null,
    picked: null,
    alignTo: null,
    renaming: null,
    ...(get().picked || get().picking === 'aimPlace' ? { picking: null, looking: null } : {}),
    ...withoutPlaces(get()),
  });
  selectionChanged();
}

function asksForObject(): boolean {
  return ['parent', 'target', 'upward', 'aimFace'].includes(get().picking ?? '');
}

/** Picks what a step is about; what was said of the step stays said. */
export function pickQuietly(ids: string[]): void {
  const { notice } = get();
  select(ids);
  set({ notice });
}
