import { aboutsFor, aboutWords, snapWords, spacesFor, spaceWords, verbs } from '../acts/words';
import { session } from '../acts/session';
import type { SnapKind } from '../core/answers';
import { get, set, type AboutKind, type SpaceKind, type Verb } from '../state/store';
import { nothingPicked, type Command } from './command';
import { onRenewal } from '../state/renewal';

const otherWords: Partial<Record<SpaceKind, string>> = {
  world: 'global',
  parent: 'parent space',
  own: 'local object',
  lead: 'last active',
  view: 'screen camera',
  surface: 'normal face',
  channels: 'gimbal euler',
};

/** Commands that choose the words of the sentence. */
export const sentenceCommands: Command[] = [
  ...verbs.map(({ verb, word, key }): Command => ({
    id: `verb.${verb}`,
    group: 'Sentence',
    says: word,
    also: { move: 'translate', rotate: 'turn', scale: 'size', pivot: 'origin anchor' }[verb],
    keys: [key.toLowerCase()],
    act: () => chooseVerb(verb),
  })),
  ...(['x', 'y', 'z'] as const).map((letter, i): Command => ({
    id: `axis.${letter}`,
    group: 'Sentence',
    says: `${letter.toUpperCase()} word on or off`,
    also: 'axis constrain',
    keys: [letter],
    act: () => toggleAxis(i),
  })),
  {
    id: 'axes.next',
    group: 'Sentence',
    says: 'Next axes',
    also: 'orientation space',
    keys: ['a'],
    act: () => nextSpace(),
  },
  {
    id: 'axes.menu',
    group: 'Sentence',
    says: 'Choose axes',
    also: 'orientation space',
    keys: ['Shift+a'],
    not: nothingPicked,
    act: () => openWord('Along whose axes'),
  },
  ...spaceWords.map((w): Command => ({
    id: `axes.${w.kind}`,
    group: 'Sentence',
    says: `Work along ${w.one} axes`,
    also: otherWords[w.kind] ?? '',
    keys: [],
    act: () => chooseSpace(w.kind),
  })),
  {
    id: 'about.next',
    group: 'Sentence',
    says: 'Next point to work about',
    also: 'centre',
    keys: ['b'],
    act: () => nextAbout(),
  },
  {
    id: 'about.menu',
    group: 'Sentence',
    says: 'Choose the point to work about',
    also: 'centre origin',
    keys: ['Shift+b'],
    not: nothingPicked,
    act: () => openWord('About which point'),
  },
  ...aboutWords.map((w): Command => ({
    id: `about.${w.kind}`,
    group: 'Sentence',
    says: `Work about ${w.one}`,
    also: 'pivot centre',
    keys: [],
    act: () => chooseAbout(w.kind),
  })),
  {
    id: 'steps',
    group: 'Sentence',
    says: 'Steps on or off',
    also: 'increment grid',
    keys: ['t'],
    act: () => toggleSteps(),
  },
  {
    id: 'steps.grid',
    group: 'Sentence',
    says: 'Steps from the start, or on the grid',
    also: 'absolute increment',
    keys: [],
    act: () => set({ onGrid: !get().onGrid }),
  },
  { id: 'snap', group: 'Sentence', says: 'Snap on or off', also: 'magnet', keys: ['n'], act: () => toggleSnap() },
  {
    id: 'snap.menu',
    group: 'Sentence',
    says: 'What to snap to',
    also: 'magnet targets',
    keys: ['Shift+n'],
    not: nothingPicked,
    act: () => openWord('Snapping'),
  },
  ...snapWords.map((w): Command => ({
    id: `snap.${w.kind}`,
    group: 'Sentence',
    says: `Snap to ${w.word}`,
    also: 'magnet',
    keys: [],
    act: () => toggleSnapKind(w.kind),
  })),
  {
    id: 'rehearse',
    group: 'Sentence',
    says: 'Rehearse: edits are only tried',
    also: 'test what if',
    keys: ['q'],
    act: () => {
      session.putBack();
      set({ rehearse: !get().rehearse, notice: null });
    },
  },
  {
    id: 'allHandles',
    group: 'Sentence',
    says: 'Needles, arcs and pads at once',
    also: 'combined handles move rotate scale universal',
    keys: ['Shift+m'],
    act: () => toggleAllHandles(),
  },
  {
    id: 'typeTo',
    group: 'Sentence',
    says: 'Type an amount by, or a value to',
    also: 'absolute relative',
    keys: [],
    act: () => set({ typeTo: !get().typeTo }),
  },
  {
    id: 'places',
    group: 'Sentence',
    says: 'Change the whole objects, or their places only',
    also: 'positions spread out',
    keys: [],
    act: () => set({ placesOnly: !get().placesOnly }),
  },
  {
    id: 'children',
    group: 'Sentence',
    says: 'Children ride along or stay',
    keys: [],
    act: flipChildren,
  },
];

export function toggleSnap(): void {
  const { snap } = get();
  set({ snap: { ...snap, on: !snap.on } });
}

export function toggleSnapKind(kind: SnapKind): void {
  const { snap } = get();
  const kinds = snap.kinds.includes(kind) ? snap.kinds.filter((k) => k !== kind) : [...snap.kinds, kind];
  set({ snap: { ...snap, kinds, on: true } });
}

/** One set with all three kinds stands along one set of axes: those of the verb that is chosen. */
export function toggleAllHandles(): void {
  const { allHandles, spaces, verb } = get();
  session.putBack();
  const from = verb === 'pivot' ? 'move' : verb;
  const kind = spaces[from] === 'channels' ? 'own' : spaces[from];
  set({
    allHandles: !allHandles,
    handlesOn: true,
    verb: from,
    ...(allHandles ? {} : { spaces: { ...spaces, move: kind, rotate: kind, scale: kind } }),
  });
}

function openWord(label: string): void {
  const word = [...document.querySelectorAll<HTMLElement>('[data-word]')].find((w) => w.dataset['word'] === label);
  word?.focus();
  word?.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
}

/** The verb that was chosen last by its key or button; none at the start. */
let chosen: Verb | null = null;

export function chooseVerb(verb: Verb): void {
  const state = get();
  session.putBack();
  const again = chosen === verb;
  chosen = verb;
  // The same key again switches the handles off; the first press always shows them.
  const picking = state.picking === 'pivot' ? { picking: null } : {};
  if (state.allHandles) set({ allHandles: false, verb, handlesOn: true, notice: null, ...picking });
  else
    set(
      state.verb === verb
        ? { handlesOn: !(state.handlesOn && again) }
        : { verb, handlesOn: true, notice: null, ...picking },
    );
  session.foretell();
}

/** Children ride along, or stay; which of them cannot is said at once. */
export function flipChildren(): void {
  set({ childrenStay: !get().childrenStay });
  session.foretell();
}

export function chooseSpace(kind: SpaceKind): void {
  const state = get();
  const all = state.allHandles && kind !== 'channels';
  const spaces = all
    ? { ...state.spaces, move: kind, rotate: kind, scale: kind }
    : { ...state.spaces, [state.verb]: kind };
  if (kind === 'surface' && !state.picked?.normal) set({ picking: 'surface', hoveredSpace: null });
  else set({ spaces, hoveredSpace: null, picking: null, notice: null });
  session.foretell();
}

export function chooseAbout(kind: AboutKind): void {
  const state = get();
  if (kind === 'point') set({ picking: 'point', hoveredAbout: null });
  else set({ abouts: { ...state.abouts, [state.verb]: kind }, hoveredAbout: null, picking: null, notice: null });
  session.foretell();
}

export function toggleAxis(axis: number): void {
  const { verb, axes } = get();
  const next = [...axes[verb]] as [boolean, boolean, boolean];
  if (verb === 'rotate') next.fill(false);
  next[axis] = verb === 'rotate' ? true : !next[axis];
  if (!next.includes(true)) next[axis] = true;
  set({ axes: { ...axes, [verb]: next } });
  session.foretell();
}

function nextSpace(): void {
  const { spaces, verb, picked } = get();
  const kinds = spacesFor(verb)
    .map((w) => w.kind)
    .filter((k) => k !== 'surface' || picked?.normal);
  chooseSpace(kinds[(kinds.indexOf(spaces[verb]) + 1) % kinds.length]!);
}

function nextAbout(): void {
  const { abouts, verb } = get();
  if (verb !== 'rotate' && verb !== 'scale') return;
  const kinds = aboutsFor()
    .map((w) => w.kind)
    .filter((kind) => kind !== 'point');
  const at = kinds.findIndex((kind) => kind === abouts[verb]);
  chooseAbout(kinds[(at + 1) % kinds.length]!);
}

function toggleSteps(): void {
  const { verb, stepSizes } = get();
  set({ stepSizes: { ...stepSizes, [verb]: { ...stepSizes[verb], on: !stepSizes[verb].on } } });
}

onRenewal(() => {
  chosen = null;
});
