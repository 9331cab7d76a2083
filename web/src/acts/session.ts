import { foretell, readSight } from './following';
import { hasAside, restore, tryAside } from './history';
import { keep, keepAndPick, keepTrial } from './keeping';
import { follows, listScenes, listSelections, openScene, renew, rest, start } from './loader';
import { fetchPicture, guarded, open, say } from './open';
import { replaceSettings, saveSettings } from './saving';
import { select } from './selecting';
import { begin, dragTo, edit, grab, preview, putBack, tryEdit, tryText, trySteering } from './trial';

/**
 * What the page can do, for all who listen to hands: stage, sentence, panels and commands. Each act stands in the file of its
 * kind: loader (scenes come and go), trial (before it is kept), keeping (it is made), history (back and forth), selecting,
 * following (the page says what the core says), saving (settings).
 */
export const session = {
  get core() {
    return open.core;
  },
  get picture() {
    return open.picture;
  },
  set picture(picture) {
    open.picture = picture;
  },
  /** By what the server knows this page; null while it is out of reach. */
  get page(): string | null {
    return open.sync?.page ?? null;
  },
  get geometry() {
    return open.geometry;
  },
  get changes() {
    return open.changes;
  },
  get hasAside() {
    return hasAside();
  },
  say,
  guarded,
  fetchPicture,
  start,
  rest,
  renew,
  open: openScene,
  listScenes,
  listSelections,
  follows,
  template: edit,
  begin,
  grab,
  dragTo,
  tryText,
  preview,
  tryEdit,
  trySteering,
  putBack,
  keep,
  keepAndPick,
  keepTrial,
  select,
  foretell,
  readSight,
  restore,
  tryAside,
  saveSettings,
  replaceSettings,
};

export type { Picture } from './open';
