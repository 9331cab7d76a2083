import { get } from '../state/store';
import type { Stage } from '../stage/stage';
import { isBrowsers, startsAmount, labelOf, type Chord } from './chords';
import type { Command } from './command';
import { buildingCommands } from './assembling';
import { editCommands } from './edit';
import { linkingCommands } from './linking';
import { pageCommands } from './page';
import { placingCommands } from './placing';
import { pickCommands } from './pick';
import { sceneCommands } from './scenes';
import { seeingCommands } from './seeing';
import { lightCommands } from './lighting';
import { materialCommands } from './surfacing';
import { shotCommands } from './shooting';
import { sequenceCommands } from './shotsTogether';
import { sentenceCommands } from './wording';
import { viewCommands } from './looking';

/** One table: keys act by it, `?` lists it, Find anything searches it, Settings changes its keys, hints name them. */
export const commands: Command[] = [
  ...sentenceCommands,
  ...editCommands,
  ...buildingCommands,
  ...linkingCommands,
  ...seeingCommands,
  ...materialCommands,
  ...lightCommands,
  ...shotCommands,
  ...sequenceCommands,
  ...placingCommands,
  ...pickCommands,
  ...viewCommands,
  ...sceneCommands,
  ...pageCommands,
];

const byId = new Map(commands.map((c) => [c.id, c]));

export const commandOf = (id: string): Command => byId.get(id)!;

/** The keys of a command, as this person has them. */
export function keysOf(command: Command, own = get().settings.keys): Chord[] {
  return own?.[command.id] ?? command.keys;
}

export function byChord(chord: Chord): Command | undefined {
  return commands.find((c) => keysOf(c).includes(chord));
}

/** The first key of a command in words, with a blank before it; nothing where it has none. For hints. */
export function hint(id: string): string {
  const chord = keysOf(commandOf(id))[0];
  return chord ? ` (${labelOf(chord)})` : '';
}

/** Why a chord cannot be given to a command; null when it can. */
export function clash(chord: Chord, forCommand: string, own = get().settings.keys): string | null {
  if (startsAmount(chord)) return `${labelOf(chord)} starts the amount of the sentence.`;
  if (['Tab', 'Shift+Tab', 'Enter'].includes(chord)) return `${labelOf(chord)} is needed to walk through the page.`;
  if (isBrowsers(chord)) return `Browsers keep ${labelOf(chord)} for themselves. Choose another.`;
  const other = commands.find((c) => c.id !== forCommand && keysOf(c, own).includes(chord));
  return other ? `${labelOf(chord)} is the key of “${other.says}”. Take it away there first.` : null;
}

export function run(command: Command, stage: Stage): void {
  const not = command.not?.();
  if (not) refuse(not);
  else command.act(stage);
}

let refuse: (why: string) => void = () => undefined;

/** Where the page says why something cannot be done. */
export function sayWith(say: (why: string) => void): void {
  refuse = say;
}
