import type { NewNode } from '../state/plans';

/** What can be added, by the words of the menu. */
export const additions: {
  id: string;
  says: string;
  also?: string;
  node: NewNode;
}[] = [
  ...(
    [
      ['box', 'Box', 1, 'cube'],
      ['ball', 'Ball', 1, 'sphere'],
      ['icoball', 'Icoball', 1, 'sphere geodesic'],
      ['cylinder', 'Cylinder', 1, 'tube'],
      ['cone', 'Cone', 1, ''],
      ['ring', 'Ring', 0.25, 'torus donut'],
      ['plane', 'Plane', 0, 'grid quad'],
      ['capsule', 'Capsule', 1, 'pill'],
      ['disc', 'Disc', 0, 'circle'],
    ] as const
  ).map(([type, name, height, also]) => ({
    id: type,
    says: name,
    also,
    // Shapes stand on their base.
    node: { kind: 'shape', name, shape: { type }, placement: { pivot: [0, -height / 2, 0] } },
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
