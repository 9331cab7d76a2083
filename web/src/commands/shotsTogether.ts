import { levelCamera, showExactly, turnCamera, turnTarget } from '../acts/cameras';
import { framingCamera, collectFramed, onlyFramed, pickFramed } from '../acts/framed';
import { sendSheet } from '../acts/sheetFile';
import { download } from '../acts/longWork';
import { startRun } from '../acts/playing';
import { session } from '../acts/session';
import { askForList, sendList, sendPictures } from '../acts/shotLists';
import { ownCamera } from '../acts/shots';
import { currentShot } from '../state/shotsSlice';
import { get, set } from '../state/store';
import type { Command } from './command';
import { noShot, noShots } from './shooting';

const noCamera = () =>
  framingCamera() === null ? 'Look through a camera, or make a shot with a camera current.' : null;
/** The camera that the active view looks through. */
const throughNow = () => get().views[get().active]!.camera;
const noCameraHere = () => (throughNow() === null ? 'No camera is looked through.' : null);
const open = (what: 'seen' | 'sheet') => set({ open: get().open === what ? null : what });

/** Opens the comparison of the current shot, or the first, with another one, else with the scene. */
function compare(): void {
  const { shots, shot, comparing } = get();
  const a = shot ?? (shots.some((s) => s.id === comparing.a) ? comparing.a : shots[0]!.id);
  const b = comparing.b !== a && shots.some((s) => s.id === comparing.b) ? comparing.b : null;
  set({ comparing: { ...comparing, a, b }, open: get().open === 'compare' ? null : 'compare' });
}

/** Commands that look at the shots as a sequence: run, table, comparison, files; and what the frame of a camera sees. */
export const sequenceCommands: Command[] = [
  {
    id: 'shot.run',
    group: 'View',
    says: 'Run through the shots',
    also: 'play animatic preview sequence slideshow',
    keys: ['Shift+ '],
    not: noShots,
    act: () => startRun(),
  },
  {
    id: 'shot.seen',
    group: 'View',
    says: 'Seen by shot: the table',
    also: 'visibility matrix collections shots render layers',
    keys: [],
    not: noShots,
    act: () => open('seen'),
  },
  {
    id: 'shot.compare',
    group: 'View',
    says: 'Compare two shots, or a shot and the scene',
    also: 'difference diff',
    keys: [],
    not: noShots,
    act: () => compare(),
  },
  {
    id: 'shot.sheet',
    group: 'View',
    says: 'Contact sheet of all shots',
    also: 'storyboard overview pictures',
    keys: [],
    not: noShots,
    act: () => open('sheet'),
  },
  {
    id: 'shot.sheetFile',
    group: 'Scene',
    says: 'Save the contact sheet as a picture',
    also: 'export png storyboard',
    keys: [],
    not: noShots,
    act: () => void session.guarded(sendSheet),
  },
  {
    id: 'shot.pictures',
    group: 'Scene',
    says: 'Save the pictures of all shots',
    also: 'export zip png render',
    keys: [],
    not: noShots,
    act: () => void session.guarded(sendPictures),
  },
  {
    id: 'shot.csv',
    group: 'Scene',
    says: 'Save the list of shots as a table (.csv)',
    also: 'export spreadsheet',
    keys: [],
    not: noShots,
    act: () => sendList('csv'),
  },
  {
    id: 'shot.otio',
    group: 'Scene',
    says: 'Save the list of shots as a timeline (.otio)',
    also: 'export edit editorial timeline',
    keys: [],
    not: noShots,
    act: () => sendList('otio'),
  },
  {
    id: 'shot.read',
    group: 'Scene',
    says: 'Bring in a list of shots',
    also: 'import csv otio json timeline spreadsheet',
    keys: [],
    act: () => askForList(),
  },
  {
    id: 'shot.file',
    group: 'Scene',
    says: 'Export this shot alone as glTF',
    also: 'export gltf glb',
    keys: [],
    not: noShot,
    act: () => void session.guarded(() => download('glb', get().shot)),
  },
  {
    id: 'shot.ownCamera',
    group: 'Scene',
    says: 'Give this shot a camera of its own',
    also: 'unshare copy camera',
    keys: [],
    not: () => noShot() ?? currentShot(get())!.cameraNote,
    act: () => ownCamera(get().shot!),
  },
  {
    id: 'frame.pick',
    group: 'Pick',
    says: 'Pick what the frame sees',
    also: 'select visible in camera frustum',
    keys: [],
    not: noCamera,
    act: () => pickFramed(false),
  },
  {
    id: 'frame.pickAll',
    group: 'Pick',
    says: 'Pick what the frame sees, and what stands behind it',
    also: 'select in camera frustum',
    keys: [],
    not: noCamera,
    act: () => pickFramed(true),
  },
  {
    id: 'frame.collect',
    group: 'Pick',
    says: 'Collect what falls in the frame',
    also: 'collection camera frustum visible',
    keys: [],
    not: noCamera,
    act: () => collectFramed(),
  },
  {
    id: 'frame.only',
    group: 'Edit',
    says: 'Switch off in this shot what its frame does not see',
    also: 'hide outside camera frustum cull',
    keys: [],
    not: () => noShot() ?? noCamera(),
    act: () => onlyFramed(),
  },
  {
    id: 'camera.level',
    group: 'Edit',
    says: 'Level the horizon of the camera looked through',
    also: 'roll straighten dutch',
    keys: [],
    not: noCameraHere,
    act: () => levelCamera(throughNow()!),
  },
  {
    id: 'camera.turn',
    group: 'Edit',
    says: 'Turn the camera looked through to the picked',
    also: 'look at aim once',
    keys: [],
    not: () => noCameraHere() ?? (turnTarget(throughNow()) === undefined ? 'Pick what it is to turn to.' : null),
    act: () => turnCamera(throughNow()!),
  },
  {
    id: 'camera.exact',
    group: 'View',
    says: 'Exactly the picture, or back to arranging',
    also: 'final clean preview render no handles',
    keys: [],
    not: noCameraHere,
    act: () => showExactly(get().active),
  },
];
