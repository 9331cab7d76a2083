import { byChord, commands, run, sayWith } from '../commands';
import { chordOf, isModifier, startsAmount } from '../commands/chords';
import { addTo, keepPlan } from '../acts/planning';
import { copyPicked, cutPicked, pastePicture, pasteText } from '../acts/clipboard';
import { isHeld } from '../acts/doing';
import { session } from '../acts/session';
import { get, set, type AddWhere, type PageState } from '../state/store';
import type { Stage } from '../stage/stage';
import { onRenewal } from '../state/renewal';

const addWheres: Record<string, AddWhere> = { i: 'inside', b: 'beside', a: 'around' };

/** Single keys act while nothing is being typed; the tree and the fields keep theirs. */
export function listen(stage: () => Stage | null): () => void {
  sayWith((text) => session.say({ kind: 'info', text }));
  // Seen by the end-to-end tests, which run every command.
  Object.assign(window, { calmPivotCommands: commands, calmPivotRun: run });
  const down = (event: KeyboardEvent) => {
    const at = event.target as HTMLElement;
    const now = stage();
    if (!now || isModifier(event.key) || event.defaultPrevented) return;
    // What is held goes first: no key changes the scene or the view under it.
    if (isHeld() && event.key !== 'Escape') {
      event.preventDefault();
      return;
    }
    const typing = at.matches('input, textarea, [role="menuitem"], [role="menuitemradio"], [data-catches-keys]');
    if (event.key === 'Enter' && get().plan && !at.matches('button, [role="menuitem"], [role="menuitemradio"]')) {
      event.preventDefault();
      keepPlan();
      return;
    }
    const chord = chordOf(event);
    const command = byChord(chord);
    // While it is said where something is added, the initials of the three places choose among them.
    const where = get().plan?.kind === 'add' && !typing ? addWheres[chord] : undefined;
    if (where) {
      event.preventDefault();
      addTo(where);
      return;
    }
    // Find anything and its like open from everywhere.
    if (typing && !(command?.group === 'Page' && chord.startsWith('Ctrl+'))) return;
    if (get().open !== null && get().open !== 'links' && command?.group !== 'Page') return;
    // Held keys repeat themselves; verbs and words of the sentence are not switched on and off by that.
    if (event.repeat && command?.group === 'Sentence') {
      event.preventDefault();
      return;
    }
    if (command?.id === 'verb.pivot' && at.closest('[role="tree"]') === null) holdPivot(event.code);
    const inTree = at.closest('[role="tree"]') !== null;
    const named = event.key.length > 1 || event.ctrlKey || event.metaKey;
    if (command && (!inTree || named)) {
      event.preventDefault();
      run(command, now);
    } else if (!inTree && startsAmount(chord) && get().selection.length > 0) {
      event.preventDefault();
      openAmount(event.key);
    }
  };
  const clipboard = (event: ClipboardEvent) => {
    const at = event.target as Element | null;
    const typing = at?.matches?.('input, textarea, [contenteditable]') ?? false;
    if (typing || event.defaultPrevented || get().open !== null) return;
    // Marked text is copied as text.
    if (event.type === 'paste' && pastePicture(event)) return;
    if (event.type !== 'paste' && (get().selection.length === 0 || document.getSelection()?.toString())) return;
    if (event.type === 'copy') copyPicked(event);
    else if (event.type === 'cut') cutPicked(event);
    else {
      const text = event.clipboardData?.getData('text/plain') ?? '';
      event.preventDefault();
      pasteText(text);
    }
  };
  const up = (event: KeyboardEvent) => releasePivot(event.code);
  window.addEventListener('keydown', down);
  window.addEventListener('keyup', up);
  for (const kind of ['copy', 'cut', 'paste'] as const) document.addEventListener(kind, clipboard);
  return () => {
    window.removeEventListener('keydown', down);
    window.removeEventListener('keyup', up);
    for (const kind of ['copy', 'cut', 'paste'] as const) document.removeEventListener(kind, clipboard);
  };
}

/** Held longer than this, the pivot's key lends its verb for as long as it is held. */
const lent = 300;

let held: { code: string; at: number; before: Pick<PageState, 'verb' | 'handlesOn' | 'allHandles'> } | null = null;

function holdPivot(code: string): void {
  const { verb, handlesOn, allHandles } = get();
  held = { code, at: performance.now(), before: { verb, handlesOn, allHandles } };
  set({ pivotHeld: true });
}

/** Let go after a while, or after something was done with it, the verb from before is back. */
function releasePivot(code: string): void {
  if (held?.code !== code) return;
  const { at, before } = held;
  held = null;
  const used = get().pivotHeld === 'used';
  set({ pivotHeld: false });
  if (before.verb !== 'pivot' && (used || performance.now() - at > lent)) {
    session.putBack();
    set(before);
    session.foretell();
  }
}

/** A digit or a sign opens the amount and starts it. */
function openAmount(first: string): void {
  const input = document.querySelector<HTMLInputElement>('[data-amount]');
  if (!input) return;
  input.focus();
  const setter = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
  setter.call(input, first === '=' ? '' : first);
  input.dispatchEvent(new Event('input', { bubbles: true }));
}

onRenewal(() => {
  held = null;
});
