import type { LampReading } from '../core/answers';
import type { EditSetSurroundings } from '../wire/apiTypes';
import { get, set } from '../state/store';
import { open, say } from './open';
import { session } from './session';

/** What is done with all lamps together, and with what lights the scene from all sides. */

export type SurroundingsFields = Omit<EditSetSurroundings, 'do'>;

export function lampsPicked(): string[] {
  const { selection, byId } = get();
  return selection.filter((id) => byId.get(id)?.kind === 'light');
}

/** Why what needs a lamp cannot be done; null: it can. */
export function noLamp(): string | null {
  return lampsPicked().length > 0
    ? null
    : 'No lamp is picked. Pick one, on the stage, in the tree or in the drawer of lamps.';
}

/** Lights the working view by some lamps alone; by all of them again where it is one already. */
export function solo(id: string): void {
  const { soloLamps } = get();
  set({ soloLamps: soloLamps.includes(id) ? soloLamps.filter((one) => one !== id) : [...soloLamps, id] });
  open.picture?.draw();
}

/** Switches a lamp on or off, for the picture and while working. */
export function switchLamp(lamp: LampReading): void {
  const on = !lamp.on;
  session.keep({ do: 'see', nodes: [lamp.id], final: on, ...(get().narrow ? {} : { working: on }) });
}

export function setSurroundings(fields: SurroundingsFields): void {
  session.keep({ do: 'setSurroundings', ...fields });
}

export function trySurroundings(fields: SurroundingsFields): void {
  session.preview([{ do: 'setSurroundings', ...fields }]);
}

/** Sets the exposure so that the picture is neither dark nor blinding: its mean, by powers of two, becomes a middle grey. */
export function meter(): void {
  const bright = open.picture?.brightness() ?? null;
  if (bright === null || !(bright > 0)) {
    say({ kind: 'info', text: 'There is no light to go by: no lamp is on and nothing shines from the surroundings.' });
    return;
  }
  setSurroundings({ exposure: Math.round(Math.min(30, Math.max(-30, Math.log2(0.18 / bright))) * 10) / 10 });
}
