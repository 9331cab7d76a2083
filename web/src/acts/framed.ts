import { currentShot } from '../state/shotsSlice';
import { get } from '../state/store';
import { keep } from './keeping';
import { open, say } from './open';
import { select } from './selecting';
import { inEveryShot } from './shots';

/** What falls in the frame of a camera: picked, collected, or all else switched off. */

/** The camera whose frame counts: that which the active view looks through, else that of the current shot. */
export function framingCamera(): string | null {
  const { views, active, shot, shots } = get();
  return views[active]!.camera ?? shots.find((s) => s.id === shot)?.camera ?? null;
}

export function pickFramed(behindOthers: boolean): void {
  const found = open.core.inFrame(framingCamera()!, behindOthers);
  if (found.length === 0) say({ kind: 'info', text: 'Nothing of the picture falls in the frame.' });
  else select(found);
}

export function collectFramed(): void {
  const found = open.core.inFrame(framingCamera()!, true);
  const name = `Seen in ${currentShot(get())?.title ?? get().byId.get(framingCamera()!)?.name ?? 'the frame'}`;
  if (found.length === 0) say({ kind: 'info', text: 'Nothing of the picture falls in the frame.' });
  else inEveryShot(() => keep({ do: 'collection', name, nodes: found }));
}

/** Switches off in the current shot what its frame does not see. */
export function onlyFramed(): void {
  const { shot } = get();
  const beyond = open.core.beyondFrame(framingCamera()!);
  if (beyond.length === 0) say({ kind: 'info', text: 'Nothing is on in this shot that its frame does not see.' });
  else keep({ do: 'seeIn', shots: [shot!], of: beyond, on: false });
}
