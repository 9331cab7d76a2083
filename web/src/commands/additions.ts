import type { NewNode } from '../wire/apiTypes';

interface Addition {
  id: string;
  says: string;
  also?: string;
  node: NewNode;
}

/** What can be added, by the words of the menu. */
export const additions: Addition[] = [
  ...(
    [
      ['box', 'Box', 'cube'],
      ['ball', 'Ball', 'sphere'],
      ['icoball', 'Icoball', 'sphere geodesic'],
      ['cylinder', 'Cylinder', 'tube'],
      ['cone', 'Cone', ''],
      ['ring', 'Ring', 'torus donut'],
      ['plane', 'Plane', 'grid quad'],
      ['capsule', 'Capsule', 'pill'],
      ['disc', 'Disc', 'circle'],
    ] as const
  ).map(([type, name, also]): Addition => ({
    id: type,
    says: name,
    also,
    // Shapes stand on their base.
    node: { kind: 'shape', name, shape: { type }, anchor: [0, -1, 0] },
  })),
  { id: 'group', says: 'Group', also: 'empty null folder', node: { kind: 'group', name: 'Group' } },
  {
    id: 'lamp',
    says: 'Lamp',
    also: 'light',
    node: { kind: 'light', name: 'Lamp', placement: { position: [0, 2, 0] }, light: { type: 'point' } },
  },
  {
    id: 'camera',
    says: 'Camera',
    node: { kind: 'camera', name: 'Camera', placement: { position: [0, 1.6, 4] }, camera: {} },
  },
];
