import type { NewNode } from '../wire/apiTypes';

interface Addition {
  id: string;
  says: string;
  also?: string;
  node: NewNode;
}

/** Each kind as bright as a room wants it. */
const lamps = [
  { says: 'Point lamp', also: 'light bulb', light: { type: 'point', intensity: 12 } },
  { says: 'Spot lamp', also: 'light cone spotlight', light: { type: 'spot', intensity: 20 } },
  { says: 'Panel lamp', also: 'light area softbox', light: { type: 'panel', intensity: 15, size: 1 } },
  { says: 'Directional lamp', also: 'light sun distant', light: { type: 'directional', intensity: 3 } },
] as const;

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
  ...lamps.map(({ says, also, light }): Addition => ({
    id: `lamp.${light.type}`,
    says,
    also,
    node: { kind: 'light', name: says, placement: { position: [0, 2, 0] }, light },
  })),
  {
    id: 'camera',
    says: 'Camera',
    node: { kind: 'camera', name: 'Camera', placement: { position: [0, 1.6, 4] }, camera: {} },
  },
];
