import { isRefusal } from '../core/answers';
import { get } from '../state/store';
import type { CopiedNodes } from '../wire/apiTypes';
import { bringPicturesIn, picturesOf, withPictures, type CopiedText } from './copiedPictures';
import { drawnPicked, isPicture, startBringing } from './materials';
import { session } from './session';

export function copyPicked(event: ClipboardEvent): void {
  const text = session.core.copyAsText(get().selection);
  if (typeof text !== 'string') {
    session.say({ kind: 'refusal', text: text.detail });
    return;
  }
  const copied: CopiedText = { ...(JSON.parse(text) as CopiedNodes), from: get().scene!.id };
  event.clipboardData?.setData('text/plain', JSON.stringify(copied));
  event.preventDefault();
  session.say({ kind: 'info', text: 'Copied. It can be pasted here, in another scene and in another window.' });
  // Pictures come a moment later; until then, and where the browser does not let them, they are fetched from their scene.
  if (picturesOf(copied).size > 0 && 'clipboard' in navigator)
    navigator.clipboard.write([new ClipboardItem({ 'text/plain': wholeText(copied) })]).catch(() => undefined);
}

async function wholeText(copied: CopiedText): Promise<Blob> {
  return new Blob([JSON.stringify(await withPictures(copied))], { type: 'text/plain' });
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
  const copied = copiedIn(text);
  const { scene } = get();
  if (copied === null || !scene || picturesOf(copied).size === 0) {
    const { from: _from, pictures: _pictures, ...nodes } = copied ?? {};
    paste(copied ? JSON.stringify(nodes) : text);
    return;
  }
  void session.guarded(async () => {
    const nodes = await bringPicturesIn(scene.id, copied);
    // Somebody who has gone on to another scene meanwhile pastes nothing there.
    if (get().scene?.id === scene.id) paste(JSON.stringify(nodes));
  });
}

/** What a text holds that may be copied objects; null: it holds something else, which the core refuses in its words. */
function copiedIn(text: string): CopiedText | null {
  try {
    const read = JSON.parse(text) as CopiedText | null;
    return typeof read === 'object' && Array.isArray(read?.nodes) && Array.isArray(read.materials ?? []) ? read : null;
  } catch {
    return null;
  }
}

function paste(text: string): void {
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
