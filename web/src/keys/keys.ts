import { byChord, commands, run, sayWith } from '../commands';
import type { Command } from '../commands/command';
import { chordOf, isModifier, startsAmount } from '../commands/chords';
import { addTo, isWhole, keepPlan } from '../acts/planning';
import { copyPicked, cutPicked, pastePicture, pasteText } from '../acts/clipboard';
import { isHeld } from '../acts/doing';
import { session } from '../acts/session';
import { isTyped, listenToTyping } from './typing';
import { get, set, type AddWhere, type PageState } from '../state/store';
import type { Stage } from '../stage/stage';
import { onRenewal } from '../state/renewal';

/** Something is prepared that is added to what is picked. */
const isAddedTo = (plan: PageState['plan']) => plan?.kind === 'add' && plan.where !== null;

/** Where a key is pressed: in a text, in a menu, in what lies over everything, in what lies over the stage, or else. */
type Where = 'text' | 'menu' | 'dialog' | 'over' | 'page';

const dialogs = new Set<PageState['open']>(['find', 'settings', 'keys', 'scenes']);

function whereOf(at: HTMLElement): Where {
  if (at.matches('input:not([type="checkbox"], [type="range"], [type="radio"]), textarea, [data-catches-keys]'))
    return 'text';
  if (at.closest('[role="menu"], [role="listbox"]')) return 'menu';
  if (dialogs.has(get().open) || at.closest('[role="dialog"]')) return 'dialog';
  return at.closest('[data-over-stage], [data-over]') ? 'over' : 'page';
}

/** By their names and not by a letter: they act where letters are for something else. */
const everywhere = new Set(['undo', 'redo', 'rename']);

/**
 * Which command acts where: undo and redo everywhere but in a text that is being typed, Find anything and its like from everywhere, all else where nothing of
 * its own is asked. Single keys never act in texts.
 */
function acts(command: Command, chord: string, where: Where): boolean {
  if (where === 'page') return true;
  if (command.group === 'Page' && (chord.startsWith('Ctrl+') || where === 'over' || where === 'dialog')) return true;
  if (!everywhere.has(command.id)) return false;
  if (where === 'text') return chord.startsWith('Ctrl+') && !isTyped(document.activeElement);
  return where === 'over' || (where === 'dialog' && get().open !== 'scenes' && command.id !== 'rename');
}

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
    const chord = chordOf(event);
    const command = byChord(chord);
    const where = whereOf(at);
    if (event.key === 'Enter' && get().plan && !at.matches('button, [role="menuitem"], [role="menuitemradio"]')) {
      event.preventDefault();
      keepPlan();
      return;
    }
    // While it is said where something is added, the initials of the three places choose among them.
    const place = isAddedTo(get().plan) && where === 'page' ? addWheres[chord] : undefined;
    if (place) {
      event.preventDefault();
      addTo(place);
      return;
    }
    if (command ? !acts(command, chord, where) : where !== 'page') return;
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
      if (get().notice?.kind === 'refusal') set({ notice: null });
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
  // Whatever has the focus: what the foot says that Enter makes is made by it, once nothing is lacking, and not what was pressed before.
  const first = (event: KeyboardEvent) => {
    const at = event.target as HTMLElement;
    const own = 'input, textarea, [data-plan], [role="menu"], [role="listbox"], [role="dialog"], [data-catches-keys]';
    const [chord, where, on] = [chordOf(event), whereOf(at), stage()];
    const command = byChord(chord);
    // Fields and panels keep their keys to themselves, but for these.
    const anywhere = command && (everywhere.has(command.id) || (command.group === 'Page' && chord.startsWith('Ctrl+')));
    if (on && command && anywhere && where !== 'page' && !isHeld() && acts(command, chord, where)) {
      event.preventDefault();
      event.stopPropagation();
      run(command, on);
      return;
    }
    if (event.key !== 'Enter' || event.ctrlKey || event.metaKey || event.altKey || isHeld()) return;
    const { plan, notice } = get();
    // What is asked first is a question, too.
    const asked = !plan && notice?.kind === 'warning' ? notice.act : undefined;
    if ((!asked && !isWhole()) || at.closest(own) || at.closest('[data-foot]')) return;
    event.preventDefault();
    event.stopPropagation();
    if (asked) asked.do();
    else keepPlan();
  };
  // A refusal is about what was tried: it goes when the next thing begins.
  const next = (event: PointerEvent) => {
    const { notice } = get();
    if (event.button === 0 && notice?.kind === 'refusal' && !(event.target as Element).closest?.('[data-foot]'))
      set({ notice: null });
  };
  window.addEventListener('pointerdown', next, true);
  const deaf = listenToTyping();
  window.addEventListener('keydown', first, true);
  window.addEventListener('keydown', down);
  window.addEventListener('keyup', up);
  for (const kind of ['copy', 'cut', 'paste'] as const) document.addEventListener(kind, clipboard);
  return () => {
    window.removeEventListener('keydown', down);
    window.removeEventListener('keyup', up);
    window.removeEventListener('keydown', first, true);
    window.removeEventListener('pointerdown', next, true);
    deaf();
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
