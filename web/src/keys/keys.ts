import { chooseAbout, chooseSpace, chooseVerb, toggleAxis } from '../sentence/Sentence';
import { aboutWords, spaceWords } from '../sentence/words';
import { session } from '../state/session';
import { get, set } from '../state/store';
import type { Stage } from '../stage/stage';

interface Key {
  /** Letters by what they are on the person's keyboard; with the modifiers that must be held. */
  key: string;
  ctrl?: boolean;
  shift?: boolean;
  does: string;
  act: (stage: Stage) => void;
}

/** One table of keys: the page acts by it and `?` lists it. */
export const keys: Key[] = [
  { key: 'm', does: 'Move', act: () => chooseVerb('move') },
  { key: 'r', does: 'Rotate', act: () => chooseVerb('rotate') },
  { key: 's', does: 'Scale', act: () => chooseVerb('scale') },
  { key: 'p', does: 'Pivot', act: () => chooseVerb('pivot') },
  { key: 'x', does: 'the X word on or off', act: () => toggleAxis(0) },
  { key: 'y', does: 'the Y word on or off', act: () => toggleAxis(1) },
  { key: 'z', does: 'the Z word on or off', act: () => toggleAxis(2) },
  { key: 'a', does: 'next axes', act: () => nextSpace() },
  { key: 'b', does: 'next point to work about', act: () => nextAbout() },
  { key: 't', does: 'steps on or off', act: () => toggleSteps() },
  {
    key: 'v',
    does: 'frame what is picked',
    act: (stage) => stage.frame(get().selection.length > 0 ? get().selection : null, true),
  },
  { key: 'v', shift: true, does: 'frame everything', act: (stage) => stage.frame(null, true) },
  { key: '7', does: 'perspective or parallel', act: (stage) => stage.toggleParallel() },
  {
    key: 'e',
    does: 'pick everything',
    act: () =>
      session.select(
        get()
          .rows.filter((r) => r.parent === null)
          .map((r) => r.id),
      ),
  },
  { key: 'e', shift: true, does: 'pick nothing', act: () => session.select([]) },
  { key: 'u', does: 'put under the lead', act: () => putUnderLead() },
  { key: 'u', shift: true, does: 'take out', act: () => takeOut() },
  { key: 'o', does: 'switch the picked off or on', act: () => switchPicked() },
  { key: 'z', ctrl: true, does: 'undo', act: () => void session.restore('undo') },
  { key: 'z', ctrl: true, shift: true, does: 'redo', act: () => void session.restore('redo') },
  { key: 'delete', does: 'remove', act: () => removePicked() },
  { key: 'f2', does: 'rename', act: () => set({ renaming: get().selection.at(-1) ?? null }) },
  { key: 'escape', does: 'put back, or leave', act: (stage) => leave(stage) },
];

const digitOrSign = /^[0-9.=\-−]$/;

/** Single keys act while nothing is being typed; the tree and the fields keep theirs. */
export function listen(stage: () => Stage | null): () => void {
  const down = (event: KeyboardEvent) => {
    const at = event.target as HTMLElement;
    const now = stage();
    if (!now || at.matches('input, textarea, [role="menuitem"], [role="menuitemradio"]')) return;
    const ctrl = event.ctrlKey || event.metaKey;
    const inTree = at.closest('[role="tree"]') !== null;
    const found = keys.find(
      (k) => k.key === event.key.toLowerCase() && (k.ctrl ?? false) === ctrl && (k.shift ?? false) === event.shiftKey,
    );
    const named = event.key.length > 1 || ctrl;
    if (found && (!inTree || named)) {
      event.preventDefault();
      found.act(now);
    } else if (!ctrl && !inTree && digitOrSign.test(event.key) && get().selection.length > 0) {
      event.preventDefault();
      openAmount(event.key);
    }
  };
  window.addEventListener('keydown', down);
  return () => window.removeEventListener('keydown', down);
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

function nextSpace(): void {
  const { spaces, verb, picked } = get();
  const kinds = spaceWords.map((w) => w.kind).filter((k) => k !== 'surface' || picked);
  chooseSpace(kinds[(kinds.indexOf(spaces[verb]) + 1) % kinds.length]!);
}

function nextAbout(): void {
  const { abouts, verb } = get();
  if (verb !== 'rotate' && verb !== 'scale') return;
  const kinds = aboutWords.map((w) => w.kind).filter((kind) => kind !== 'point');
  const at = kinds.findIndex((kind) => kind === abouts[verb]);
  chooseAbout(kinds[(at + 1) % kinds.length]!);
}

function toggleSteps(): void {
  const { verb, stepSizes } = get();
  set({ stepSizes: { ...stepSizes, [verb]: { ...stepSizes[verb], on: !stepSizes[verb].on } } });
}

export function putUnderLead(): void {
  const { selection } = get();
  if (selection.length < 2) {
    session.say({
      kind: 'info',
      text: 'Pick what is to go under, then with Ctrl the parent; the parent is picked last.',
    });
    return;
  }
  session.keep({ do: 'putUnder', nodes: selection.slice(0, -1), parent: selection.at(-1)! });
}

export function takeOut(): void {
  const { selection } = get();
  if (selection.length > 0) session.keep({ do: 'putUnder', nodes: selection, parent: null });
}

export function removePicked(): void {
  const { selection } = get();
  if (selection.length === 0) return;
  if (session.keep({ do: 'remove', nodes: selection })) session.select([]);
}

export function switchPicked(): void {
  const { selection, byId } = get();
  if (selection.length === 0) return;
  session.keep({ do: 'see', nodes: selection, working: !byId.get(selection.at(-1)!)?.working });
}

function leave(stage: Stage): void {
  if (stage.handles.dragging) stage.handles.putBack();
  else if (get().picking) set({ picking: null });
  else session.putBack();
  session.say(null);
}
