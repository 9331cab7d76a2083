export type Section = 'Looks' | 'Pointer' | 'Picking' | 'Panels' | 'Keys' | 'File';

export const sections: Section[] = ['Looks', 'Pointer', 'Picking', 'Panels', 'Keys', 'File'];

/** Every setting by name, so that Find anything leads to it. */
export const settingRows: { section: Section; says: string; also?: string }[] = [
  { section: 'Looks', says: 'Colours by day or night', also: 'theme dark light' },
  { section: 'Looks', says: 'Unit of this scene', also: 'metre inch' },
  { section: 'Looks', says: 'Decimals of lengths and angles', also: 'precision digits' },
  { section: 'Looks', says: 'Size of the handles', also: 'gizmo manipulator' },
  { section: 'Looks', says: 'How picked objects are shown', also: 'outline highlight selection colour dim' },
  { section: 'Pointer', says: 'Navigation set', also: 'mouse trackpad pen tablet' },
  { section: 'Pointer', says: 'Turntable or free ball', also: 'orbit trackball' },
  { section: 'Pointer', says: 'Speed and direction of navigating', also: 'sensitivity invert' },
  { section: 'Picking', says: 'Boxes pick what they touch or hold whole', also: 'marquee rectangle selection' },
  { section: 'Picking', says: 'Boxes pick only what is seen', also: 'marquee occluded behind x-ray' },
  { section: 'Picking', says: 'Every press adds', also: 'pen touch multi' },
  { section: 'Picking', says: 'Kinds that can be picked', also: 'selection filter mask' },
  { section: 'Picking', says: 'Undo takes back selections', also: 'history' },
  { section: 'Panels', says: 'Arrangement of the panels', also: 'layout workspace' },
  { section: 'Panels', says: 'Switches that rows of the tree show', also: 'columns lock visibility' },
  { section: 'Panels', says: 'The other members of its collection on the stage', also: 'mates outline' },
  { section: 'Panels', says: 'Members in the colours of their collections', also: 'tint mates' },
  { section: 'Keys', says: 'Keys of all commands', also: 'shortcuts hotkeys rebind' },
  { section: 'File', says: 'Settings as a file', also: 'export import backup' },
];
