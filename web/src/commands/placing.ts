import { isRefusal, type Channel, type Vec3, type Edit } from '../core/answers';
import { aboutOf, spaceOf } from '../acts/edits';
import { keepIfSure } from '../acts/planning';
import { session } from '../acts/session';
import { get, set, type Picking } from '../state/store';
import { nothingPicked, type Command } from './command';
const fewPicked = () => (get().selection.length < 2 ? 'Pick two objects or more; the last is the lead.' : null);

/** The placement of the lead, or one channel of it, as text for the clipboard. */
export async function copyPlacement(channel: Channel | ''): Promise<void> {
  const lead = get().selection.at(-1);
  if (lead === undefined) return;
  const text = session.core.placementAsText(lead, channel);
  try {
    await navigator.clipboard.writeText(text);
    session.say({
      kind: 'info',
      text: `Copied ${channel || 'the placement'} as text; it can be pasted into a spreadsheet.`,
    });
  } catch {
    session.say({
      kind: 'refusal',
      text: 'The browser did not let the page write to the clipboard. Allow it, and copy again.',
    });
  }
}

/** Gives what is picked the placement that the clipboard holds. */
export async function pastePlacement(): Promise<void> {
  try {
    pasteText(await navigator.clipboard.readText());
  } catch {
    session.say({
      kind: 'refusal',
      text: 'The browser did not let the page read the clipboard. Allow it, and paste again.',
    });
  }
}

export function pasteText(text: string): void {
  const edits = session.core.placementFromText(text, get().selection, '');
  if (isRefusal(edits)) session.say({ kind: 'refusal', text: edits.detail });
  else session.keep(...edits);
}

/** Brings pivots to world zero, also below a parent. */
export function sendToZero(): void {
  session.keep({ do: 'bring', nodes: get().selection, to: {} });
}

export function startPicking(picking: Picking): void {
  session.putBack();
  set({ picking, notice: null });
}

/** Mirrors what is picked across the plane of the sentence's axes and point. */
export function mirror(axis: 'x' | 'y' | 'z', how: 'mirror' | 'turn', alone = true): Edit | null {
  const state = get();
  if (state.selection.length === 0) return null;
  const kind = state.spaces[state.verb] === 'channels' ? 'own' : state.spaces[state.verb];
  const space = spaceOf(kind, state, () => session.picture?.viewWorld() ?? []);
  const verb = state.verb === 'scale' ? 'scale' : 'rotate';
  const about = aboutOf(state.abouts[verb], state);
  const edit: Edit = { do: 'mirror', nodes: state.selection, axis, space, about, how };
  if (alone) keepIfSure(['Mirror', `across ${axis.toUpperCase()}`], state.selection, edit);
  return edit;
}

export function takeShearOut(): void {
  keepIfSure(['Take the shear out of', ''], get().selection, { do: 'dropShear', nodes: get().selection });
}

/** Common alignments in one press, to the lead. */
export const alignments: {
  id: string;
  says: string;
  also: string;
  axes: Partial<Record<'x' | 'y' | 'z', Ends>>;
}[] = [
  {
    id: 'onTop',
    says: 'Stand on top of the lead, centred',
    also: 'align stack',
    axes: { x: middle(), y: { from: 'min', to: 'max' }, z: middle() },
  },
  {
    id: 'beside',
    says: 'Side by side with the lead, along X',
    also: 'align right',
    axes: { x: { from: 'min', to: 'max' } },
  },
  {
    id: 'height',
    says: 'At the same height as the lead',
    also: 'align bottom level',
    axes: { y: { from: 'min', to: 'min' } },
  },
  {
    id: 'middle',
    says: 'Middle to the middle of the lead',
    also: 'align centre',
    axes: { x: middle(), y: middle(), z: middle() },
  },
  {
    id: 'pivots',
    says: 'Pivot to the pivot of the lead',
    also: 'align match position',
    axes: { x: pivot(), y: pivot(), z: pivot() },
  },
];

type End = 'min' | 'middle' | 'max' | 'pivot';
type Ends = { from: End; to: End };

function middle(): Ends {
  return { from: 'middle', to: 'middle' };
}

function pivot(): Ends {
  return { from: 'pivot', to: 'pivot' };
}

export function alignToLead(axes: object): void {
  const { selection } = get();
  session.keep({ do: 'align', nodes: selection.slice(0, -1), to: selection.at(-1)!, axes, space: { kind: 'world' } });
}

/** A mark captured from the lead's pivot, or from the view. */
export function captureMark(from: 'pivot' | 'view', follow = false): void {
  const { selection, byId } = get();
  const lead = selection.at(-1);
  const id = crypto.randomUUID();
  const name = session.core.nextMarkName(from === 'view' ? 'View' : (byId.get(lead ?? '')?.name ?? ''));
  const at = from === 'view' ? { point: focus(), view: session.picture!.viewWorld() } : { node: lead };
  session.keepAndPick([{ do: 'mark', id, name, at, follow }], [id]);
}

/** The point that the view looks at. */
function focus(): Vec3 {
  return session.picture?.focus() ?? [0, 0, 0];
}

/** Commands that put things exactly where they belong. */
export const placingCommands: Command[] = [
  {
    id: 'zero',
    group: 'Edit',
    says: 'Send to world zero',
    also: 'reset origin',
    keys: [],
    not: nothingPicked,
    act: sendToZero,
  },
  {
    id: 'placement.copy',
    group: 'Edit',
    says: 'Copy placement as text',
    also: 'transform clipboard numbers',
    keys: [],
    not: nothingPicked,
    act: () => void copyPlacement(''),
  },
  {
    id: 'placement.paste',
    group: 'Edit',
    says: 'Paste placement from text',
    also: 'transform clipboard numbers',
    keys: [],
    not: nothingPicked,
    act: () => void pastePlacement(),
  },
  {
    id: 'drop',
    group: 'Edit',
    says: 'Drop onto what is below',
    also: 'ground floor gravity land',
    keys: ['d'],
    not: nothingPicked,
    act: () => session.keep({ do: 'drop', nodes: get().selection }),
  },
  ...alignments.map(({ id, says, also, axes }): Command => ({
    id: `align.${id}`,
    group: 'Edit',
    says,
    also,
    keys: [],
    not: fewPicked,
    act: () => alignToLead(axes),
  })),
  {
    id: 'spread.gaps',
    group: 'Edit',
    says: 'Spread with equal gaps along X',
    also: 'distribute',
    keys: [],
    not: fewPicked,
    act: () =>
      session.keep({ do: 'spread', nodes: get().selection, along: 'x', space: { kind: 'world' }, equal: 'gaps' }),
  },
  {
    id: 'spread.line',
    group: 'Edit',
    says: 'Spread in equal steps along the line from first to last',
    also: 'distribute',
    keys: [],
    not: fewPicked,
    act: () =>
      session.keep({ do: 'spread', nodes: get().selection, along: 'line', space: { kind: 'world' }, equal: 'pivots' }),
  },
  ...(['x', 'y', 'z'] as const).map((axis): Command => ({
    id: `mirror.${axis}`,
    group: 'Edit',
    says: `Mirror across ${axis.toUpperCase()} of the sentence’s axes`,
    also: 'flip symmetry reflect',
    keys: [],
    not: nothingPicked,
    act: () => void mirror(axis, 'mirror'),
  })),
  {
    id: 'shear',
    group: 'Edit',
    says: 'Take the shear out',
    also: 'skew',
    keys: [],
    not: nothingPicked,
    act: takeShearOut,
  },
  {
    id: 'pivot.press',
    group: 'Edit',
    says: 'Put the pivot where I press',
    also: 'origin anchor vertex face',
    keys: ['Shift+p'],
    not: nothingPicked,
    act: () => startPicking('pivot'),
  },
  {
    id: 'pivots',
    group: 'Edit',
    says: 'Check pivots that lie away from their objects',
    also: 'origin anchor mend repair import',
    keys: [],
    act: () => set({ open: 'pivots' }),
  },
  {
    id: 'mark.place',
    group: 'Edit',
    says: 'Place a mark on a surface or the ground',
    also: 'cursor workplane axes new',
    keys: ['Ctrl+m'],
    act: () => startPicking('mark'),
  },
  {
    id: 'mark.pivot',
    group: 'Edit',
    says: 'Make a mark at the lead’s pivot',
    also: 'cursor capture',
    keys: [],
    not: nothingPicked,
    act: () => captureMark('pivot'),
  },
  {
    id: 'mark.follow',
    group: 'Edit',
    says: 'Make a mark that follows the lead',
    also: 'cursor capture locator',
    keys: [],
    not: nothingPicked,
    act: () => captureMark('pivot', true),
  },
  {
    id: 'mark.view',
    group: 'Edit',
    says: 'Make a mark from the view',
    also: 'cursor capture',
    keys: [],
    act: () => captureMark('view'),
  },
  {
    id: 'uprights',
    group: 'View',
    says: 'Uprights of faces as short lines',
    also: 'normals display',
    keys: [],
    act: () => set({ uprights: !get().uprights }),
  },
];
