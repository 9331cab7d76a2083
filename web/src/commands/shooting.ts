import type { Edit } from '../core/answers';
import { session } from '../acts/session';
import {
  inEveryShot,
  enterShot,
  makeEverywhere,
  setAsInShot,
  setNarrow,
  shotFromView,
  stepShot,
  takeBack,
} from '../acts/shots';
import { scopes } from '../acts/keeping';
import { currentShot } from '../state/shotsSlice';
import { get } from '../state/store';
import { nothingPicked, type Command } from './command';
import { arrange } from './page';
import { ownSettings } from '../state/ownSettings';

/** Why what needs a current shot cannot be done. */
export const noShot = () => (get().shot === null ? 'No shot is current. Press a card of the tray first.' : null);
/** Why what needs shots cannot be done. */
export const noShots = () => (get().shots.length === 0 ? 'There are no shots yet. Make one of this view first.' : null);
const noCheats = () =>
  noShot() ??
  nothingPicked() ??
  (get().cheats.some((c) => c.channel !== 'seen') ? null : 'What is picked has nothing of its own in this shot.');
const nothingOwn = () => noShot() ?? (currentShot(get())!.cheats > 0 ? null : 'This shot has nothing of its own.');

function onShot(edit: (id: string) => Edit): () => void {
  return () => void session.keep(edit(get().shot!));
}

/** Commands about shots, and about where edits are made. */
export const shotCommands: Command[] = [
  {
    id: 'shot.new',
    group: 'Scene',
    says: 'Make a shot of this view',
    also: 'camera cut sequence storyboard',
    keys: [],
    act: () => shotFromView(),
  },
  {
    id: 'shot.next',
    group: 'View',
    says: 'Next shot',
    keys: ['PageDown'],
    not: noShots,
    act: () => stepShot(1),
  },
  {
    id: 'shot.previous',
    group: 'View',
    says: 'Previous shot',
    keys: ['PageUp'],
    not: noShots,
    act: () => stepShot(-1),
  },
  {
    id: 'shot.leave',
    group: 'View',
    says: 'Leave the shot: arrange the scene itself',
    keys: [],
    not: noShot,
    act: () => enterShot(null),
  },
  {
    id: 'shot.scope',
    group: 'Sentence',
    says: 'Edit in every shot, or in this one only',
    also: 'scope override local shot',
    keys: ['Shift+c'],
    not: noShot,
    act: () => setNarrow(!get().narrow),
  },
  {
    id: 'shot.as',
    group: 'View',
    says: 'Leave out what the shot leaves out, or show it',
    also: 'as in the shot working view',
    keys: [],
    not: noShot,
    act: () => setAsInShot(!get().asInShot),
  },
  {
    id: 'shot.takeBack',
    group: 'Edit',
    says: 'Take back what the picked have of their own in this shot',
    also: 'cheat revert override reset',
    keys: [],
    not: noCheats,
    act: () => takeBack(get().selection),
  },
  {
    id: 'shot.takeAllBack',
    group: 'Edit',
    says: 'Take back all that this shot has of its own',
    also: 'cheat revert override reset',
    keys: [],
    not: nothingOwn,
    act: () => takeBack(null),
  },
  {
    id: 'shot.everywhere',
    group: 'Edit',
    says: 'Make what the picked have of their own so in every shot',
    also: 'cheat promote apply override',
    keys: [],
    not: noCheats,
    act: () => inEveryShot(() => makeEverywhere(get().selection, 'follow')),
  },
  {
    id: 'shot.everywhereKeeping',
    group: 'Edit',
    says: 'Make it so in the scene, while the other shots keep what they showed',
    also: 'cheat promote apply override',
    keys: [],
    not: noCheats,
    act: () => inEveryShot(() => makeEverywhere(get().selection, 'keep')),
  },
  {
    id: 'shot.copy',
    group: 'Scene',
    says: 'Copy the shot',
    also: 'duplicate version',
    keys: [],
    not: noShot,
    act: onShot((shot) => ({ do: 'copyShot', shot })),
  },
  {
    id: 'shot.remove',
    group: 'Scene',
    says: 'Remove the shot',
    keys: [],
    not: noShot,
    act: onShot((id) => ({ do: 'removeShot', id })),
  },
  {
    id: 'shot.renumber',
    group: 'Scene',
    says: 'Renumber the shots: 010, 020, 030',
    keys: [],
    not: noShots,
    act: () => session.keep({ do: 'renumber' }),
  },
  {
    id: 'tray',
    group: 'Page',
    says: 'Show or fold the tray',
    keys: [],
    act: () => arrange({ tray: !ownSettings().arrangement.tray }),
  },
];

/** What counts in every shot only is done there by one press; what has its own is edited by another. */
scopes.wayOut = (refusal, again) =>
  refusal === 'every-shot-only'
    ? { word: 'Do it in every shot', do: () => inEveryShot(again) }
    : refusal === 'cheated'
      ? {
          word: 'Edit the cheat',
          do: () => {
            setNarrow(true);
            again();
          },
        }
      : null;
