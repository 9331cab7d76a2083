import { askFirst, drawnPicked, makeMaterial, nothingDrawn, pickUsers } from '../acts/materials';
import { session } from '../acts/session';
import { get, set } from '../state/store';
import type { Command } from './command';
import { arrange } from './page';
import { startPicking } from './placing';

/** The material of the lead, in the slot that is shown; empty: none. */
function ofLead(): string {
  const { selection, slot } = get();
  return session.core.madeOf(selection, slot).slots[slot] ?? '';
}

const noMaterial = () =>
  nothingDrawn() ?? (ofLead() === '' ? 'The lead is made of nothing in particular. Give it a material first.' : null);
const noneYet = () => (get().materials.length === 0 ? 'There are no materials yet. Make one first.' : null);

/** Commands about what things are made of. */
export const materialCommands: Command[] = [
  {
    id: 'material.new',
    group: 'Edit',
    says: 'Make a material for what is picked',
    also: 'surface colour shader texture paint',
    keys: [],
    act: () => void makeMaterial(null, drawnPicked()),
  },
  {
    id: 'material.copy',
    group: 'Edit',
    says: 'Give what is picked its own copy of its material',
    also: 'surface duplicate single user unlink',
    keys: [],
    not: noMaterial,
    act: () => void makeMaterial(ofLead(), drawnPicked()),
  },
  {
    id: 'material.take',
    group: 'Edit',
    says: 'Take the material of an object that is pressed',
    also: 'surface eyedropper pipette copy look',
    keys: [],
    not: nothingDrawn,
    act: () => startPicking('material'),
  },
  {
    id: 'material.lead',
    group: 'Edit',
    says: 'Give the others the material of the lead',
    also: 'surface link assign same',
    keys: [],
    not: () =>
      drawnPicked().length > 1
        ? noMaterial()
        : 'Pick several shapes or meshes first, the one whose material they take last.',
    act: () => void session.keep({ do: 'takeMaterial', nodes: get().selection }),
  },
  {
    id: 'material.picked',
    group: 'Pick',
    says: 'Pick all that has the material of the lead',
    also: 'surface select similar same users',
    keys: [],
    not: noMaterial,
    act: () => pickUsers(ofLead()),
  },
  {
    id: 'material.merge',
    group: 'Scene',
    says: 'Merge materials that are alike',
    also: 'surface duplicates clean up',
    keys: [],
    not: noneYet,
    act: () => askFirst({ do: 'mergeMaterials' }, 'Merge them'),
  },
  {
    id: 'material.clear',
    group: 'Scene',
    says: 'Clear materials that nothing uses',
    also: 'surface unused purge clean up',
    keys: [],
    not: noneYet,
    act: () => askFirst({ do: 'clearMaterials' }, 'Clear them'),
  },
  {
    id: 'material.drawer',
    group: 'Page',
    says: 'Open the drawer of materials',
    also: 'tray surfaces list library',
    keys: [],
    act: () => {
      arrange({ tray: true });
      set({ drawer: 'materials' });
    },
  },
];
