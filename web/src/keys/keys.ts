import { byChord, commands, run, sayWith } from '../commands';
import { chordOf, isModifier, startsAmount } from '../commands/chords';
import { copyPicked, cutPicked, keepPlan, pasteText } from '../state/building';
import { session } from '../state/session';
import { get } from '../state/store';
import type { Stage } from '../stage/stage';

/** Single keys act while nothing is being typed; the tree and the fields keep theirs. */
export function listen(stage: () => Stage | null): () => void {
  sayWith((text) => session.say({ kind: 'info', text }));
  // Seen by the end-to-end tests, which run every command.
  Object.assign(window, { calmPivotCommands: commands, calmPivotRun: run });
  const down = (event: KeyboardEvent) => {
    const at = event.target as HTMLElement;
    const now = stage();
    if (!now || isModifier(event.key) || event.defaultPrevented) return;
    const typing = at.matches('input, textarea, [role="menuitem"], [role="menuitemradio"], [data-catches-keys]');
    if (event.key === 'Enter' && get().plan && !at.matches('button, [role="menuitem"], [role="menuitemradio"]')) {
      event.preventDefault();
      keepPlan();
      return;
    }
    const chord = chordOf(event);
    const command = byChord(chord);
    // Find anything and its like open from everywhere.
    if (typing && !(command?.group === 'Page' && chord.startsWith('Ctrl+'))) return;
    if (get().open !== null && get().open !== 'links' && command?.group !== 'Page') return;
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
    if (event.type !== 'paste' && (get().selection.length === 0 || document.getSelection()?.toString())) return;
    if (event.type === 'copy') copyPicked(event);
    else if (event.type === 'cut') cutPicked(event);
    else {
      const text = event.clipboardData?.getData('text/plain') ?? '';
      event.preventDefault();
      pasteText(text);
    }
  };
  window.addEventListener('keydown', down);
  for (const kind of ['copy', 'cut', 'paste'] as const) document.addEventListener(kind, clipboard);
  return () => {
    window.removeEventListener('keydown', down);
    for (const kind of ['copy', 'cut', 'paste'] as const) document.removeEventListener(kind, clipboard);
  };
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
