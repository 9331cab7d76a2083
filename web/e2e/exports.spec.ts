import { NodeIO, type Node } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { expect } from '@playwright/test';
import { test } from './shared';
import validator from 'gltf-validator';

interface Evaluated {
  nodes: { id: string; world: number[] }[];
}

/** A scene with everything that is hard to send out: mirrors, shear, turned pivots, uneven parents. */
async function awkward(request: import('@playwright/test').APIRequestContext): Promise<string> {
  const made = (await (await request.post('/api/scenes', { data: { name: 'Awkward' } })).json()) as { id: string };
  const create = (
    id: string,
    under: string | null,
    placement: object,
    more: object = { kind: 'shape', shape: { type: 'cone' } },
  ) => ({
    do: 'create',
    under,
    node: { id, name: id, placement, ...more },
  });
  const edits = [
    create('mirror', null, { scale: [-1, 2, 1], rotation: [10, 20, 30], order: 'ZXY' }),
    create('sheared', 'mirror', {
      shear: [0.5, 0.2, -0.3],
      scale: [1, 3, 0.5],
      pivot: [0, 1, 0],
      pivotTurn: [0, 30, 40],
    }),
    create('child', 'sheared', { position: [1, 2, 3], rotation: [400, 0, 0] }),
    create('eye', 'sheared', { position: [0, 0, 2] }, { kind: 'camera', camera: { fov: 50 } }),
    create('lamp', 'mirror', {}, { kind: 'light', light: { type: 'spot', innerCone: 10, outerCone: 20 } }),
  ];
  const answer = await request.post(`/api/scenes/${made.id}/edits`, { data: { base: 1, edits } });
  expect(answer.ok(), await answer.text()).toBe(true);
  return made.id;
}

for (const which of ['demo', 'awkward'] as const) {
  for (const format of ['glb', 'gltf'] as const) {
    test(`the ${which} scene as ${format} passes the official validator without errors or warnings`, async ({
      request,
    }) => {
      const id = which === 'demo' ? 'orrery-room' : await awkward(request);
      const bytes = new Uint8Array(await (await request.get(`/api/scenes/${id}/export?format=${format}`)).body());
      const report = await validator.validateBytes(bytes, { maxIssues: 0 });
      expect(report.issues.messages.filter((m: { severity: number }) => m.severity <= 1)).toEqual([]);
      expect(report.info.totalTriangleCount).toBeGreaterThan(50);
    });
  }

  test(`an independent reader finds every object of the ${which} scene where it stands`, async ({ request }) => {
    const id = which === 'demo' ? 'orrery-room' : await awkward(request);
    const bytes = new Uint8Array(await (await request.get(`/api/scenes/${id}/export`)).body());
    const document = await new NodeIO().registerExtensions(ALL_EXTENSIONS).readBinary(bytes);
    const evaluated = (await (await request.get(`/api/scenes/${id}/evaluated`)).json()) as Evaluated;
    const scene = (await (await request.get(`/api/scenes/${id}`)).json()) as { nodes: { id: string; name: string }[] };
    const named = new Map<string, Node>();
    for (const node of document.getRoot().listNodes()) named.set(node.getName(), node);
    for (const { id: nodeId, world } of evaluated.nodes) {
      const name = scene.nodes.find((n) => n.id === nodeId)!.name;
      const node = named.get(`${name} (helper)`) ?? named.get(name)!;
      const there = node.getWorldMatrix();
      world.forEach((v, i) => expect(Math.abs(there[i]! - v), `${name}[${i}]`).toBeLessThan(1e-5 * (1 + Math.abs(v))));
    }
  });
}
