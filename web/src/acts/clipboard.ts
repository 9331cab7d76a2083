import { isRefusal } from '../core/answers';
import { get } from '../state/store';
import type { CopiedNodes } from '../wire/apiTypes';
import { drawnPicked, isPicture, startBringing } from './materials';
import { session } from './session';

export function copyPicked(event: ClipboardEvent): void {
  const text = session.core.copyAsText(get().selection);
  if (typeof text !== 'string') {
    session.say({ kind: 'refusal', text: text.detail });
    return;
  }
  event.clipboardData?.setData('text/plain', text);
  event.preventDefault();
  session.say({ kind: 'info', text: 'Copied. It can be pasted here, in another scene and in another window.' });
}

export function cutPicked(event: ClipboardEvent): void {
  copyPicked(event);
  if (event.defaultPrevented && session.keep({ do: 'remove', nodes: get().selection })) {
    session.select([]);
    session.say({ kind: 'info', text: 'Cut. It can be pasted here, in another scene and in another window.' });
  }
}

/** A picture that lies in the clipboard, for what is picked; false: none does. */
export function pastePicture(event: ClipboardEvent): boolean {
  const file = [...(event.clipboardData?.files ?? [])].find(isPicture);
  if (!file) return false;
  event.preventDefault();
  const picked = drawnPicked();
  startBringing(file, file.name === 'image.png' ? 'Pasted picture.png' : file.name, picked.length > 0 ? picked : null);
  return true;
}

export function pasteText(text: string): void {
  const read = session.core.topsOfText(text);
  if (isRefusal(read)) {
    session.say({ kind: 'refusal', text: read.detail });
    return;
  }
  const ids = Array.from({ length: read.tops }, () => crypto.randomUUID());
  const lead = get().byId.get(get().selection.at(-1) ?? '');
  const under = lead && lead.kind !== 'mark' ? (lead.kind === 'group' ? lead.id : lead.parent) : null;
  session.keepAndPick(
    [{ do: 'paste', copied: JSON.parse(text) as CopiedNodes, ids, ...(under ? { under } : {}) }],
    ids,
  );
}
