import type { Runtime } from '../../src/core/boot';
import type { Exports } from '../../src/core/exports';
import { pointerOf, triedOf } from '../../src/core/pointerMove';
import { triedNumber } from '../../src/wire/bridgeTypes';
import { expect, test } from '@playwright/test';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { readGeometry } from '../../src/core/geometry';

/** The same WebAssembly that the page runs, in Node: its exports, without a browser. */

let runtime: Runtime;
let bridge: Exports;

test.beforeAll(async ({ request }) => {
  const url = pathToFileURL(join(import.meta.dirname, '../../public/_framework/dotnet.js')).href;
  const { dotnet } = (await import(url)) as { dotnet: { create(): Promise<Runtime> } };
  runtime = await dotnet.create();
  bridge = (await runtime.getAssemblyExports(runtime.getConfig().mainAssemblyName)).CalmPivot.Browser.Bridge;
  bridge.Load(new Uint8Array(await (await request.get('/api/scenes/orrery-room/document')).body()));
  bridge.Open();
});

const slotOf = (id: string) => {
  const line = bridge
    .Outline()
    .split('\n')
    .find((l) => l.startsWith(`${id}\t`))!;
  return Number(line.split('\t')[1]);
};

const worldOf = (id: string) => {
  const from = bridge.WorldsAddress() / 8 + slotOf(id) * 12;
  return [...runtime.localHeapViewF64().subarray(from, from + 12)];
};

const rotate = (by = 0) => ({
  do: 'rotate',
  nodes: ['moon-arm'],
  by,
  axis: 'y',
  space: { kind: 'parent' },
  about: { kind: 'own' },
});

const begin = (edit: object, kind = 'parent') => bridge.Begin(JSON.stringify(edit), JSON.stringify({ kind }));

// To the last digits: sines differ there between mathematical libraries.
test('the page’s core and the server agree on every world matrix', async ({ request }) => {
  const evaluated = (await (await request.get('/api/scenes/orrery-room/evaluated')).json()) as {
    nodes: { id: string; world: number[] }[];
    marks: { id: string; world: number[] }[];
  };
  const all = [...evaluated.nodes, ...evaluated.marks];
  expect(bridge.SlotCount()).toBe(all.length);
  for (const { id, world } of all) {
    const rows = worldOf(id);
    for (let r = 0; r < 3; r++) for (let c = 0; c < 4; c++) expect(rows[4 * r + c]).toBeCloseTo(world[4 * c + r]!, 12);
  }
});

test('the outline lists parents before children, each with its slot', () => {
  const seen = new Set(['']);
  const slots = new Set<string>();
  let collections = 0;
  for (const line of bridge.Outline().split('\n').filter(Boolean)) {
    const [id, slot, parent, kind] = line.split('\t');
    expect(seen.has(parent!)).toBe(true);
    seen.add(id!);
    if (kind !== 'collection') slots.add(slot!);
    else collections++;
    expect(['shape', 'mesh', 'group', 'light', 'camera', 'mark', 'collection']).toContain(kind);
  }
  expect(slots.size).toBe(seen.size - 1 - collections);
  expect(collections).toBe(3);
});

test('a trial changes only what rides along, and putting back restores it to the bit', () => {
  const before = worldOf('moon');
  expect(begin(rotate())).toBe('{}');
  const tried = JSON.parse(bridge.Try(30, 0, 0)) as {
    reading: { amount: string; from: string; to: string };
    amount: number[];
  };
  expect(tried.reading).toMatchObject({ amount: '+30°', from: 'Y 35°', to: 'Y 65°' });
  expect(bridge.ChangedCount()).toBe(4);
  const at = bridge.ChangedAddress() / 4;
  const changed = [...runtime.localHeapViewI32().subarray(at, at + 4)].sort();
  expect(changed).toEqual(['moon-arm', 'moon-post', 'moon', 'moon-clip'].map(slotOf).sort());
  expect(worldOf('moon')).not.toEqual(before);
  bridge.PutBack();
  expect(worldOf('moon')).toEqual(before);
});

test('the tried placement is what the panels read, and a drag steps by what it is told', () => {
  const frame = JSON.parse(bridge.Frame(JSON.stringify(rotate()), '{"kind":"parent"}', true)) as {
    centre: number[];
    axes: number[];
  };
  const [x, y, z] = frame.centre as [number, number, number];
  begin(rotate());
  // Looking straight down on the arm; the view's right is X, its up −Z.
  const view = [1, 0, 0, 0, 0, 0, -1, 0, 0, 1, 0, 0, x, y + 5, z, 1];
  const ray = (dx: number, dz: number) => {
    const l = Math.hypot(dx, 5, dz);
    return [x, y + 5, z, dx / l, -5 / l, dz / l];
  };
  bridge.Grab('arc', 1, view, false, 1, ray(1, 0));
  const words = bridge.DragTo(pointerOf(ray(0.6, -0.8), false, 5, false, null), [], []);
  const at = bridge.TriedAddress() / 8;
  const tried = triedOf(runtime.localHeapViewF64().subarray(at, at + triedNumber.count), words);
  expect(tried.amount[0]).toBe(55);
  expect(tried.lead!.placement.rotation![1]).toBe(90);
  expect(tried.reading).toMatchObject({ amount: '+55°', warning: null });
  expect([tried.refused, tried.caught]).toEqual([null, null]);
  const node = JSON.parse(bridge.Node('moon-arm')) as { node: { placement: { rotation: number[] } } };
  expect(node.node.placement.rotation[1]).toBe(90);
  bridge.PutBack();
});

test('a kept edit stands at once, is dropped when refused, and agrees with the server’s word', () => {
  const before = worldOf('moon');
  begin(rotate());
  bridge.Try(30, 0, 0);
  const kept = JSON.parse(bridge.KeepTrial()) as {
    ticket: number;
    sentence: string;
    edits: object[];
    stale: { outline: boolean };
  };
  expect(kept.sentence).toBe("Rotated Moon arm +30° about its pivot, along its parent's Y");
  expect(kept.edits).toEqual([expect.objectContaining({ do: 'rotate', by: 30 })]);
  expect(kept.stale.outline).toBe(false);
  expect(worldOf('moon')).not.toEqual(before);
  bridge.Drop(kept.ticket);
  expect(worldOf('moon')).toEqual(before);

  const again = JSON.parse(bridge.KeepEdits(JSON.stringify([rotate(10)]))) as { ticket: number };
  const { node } = JSON.parse(bridge.Node('moon-arm')) as { node: object };
  const revision = bridge.Revision();
  const heard = JSON.parse(
    bridge.Hear(JSON.stringify({ revision: revision + 1, changed: [node], removed: [], ticket: again.ticket })),
  ) as { stale: { worlds: boolean }; dropped: object[] };
  expect(heard).toMatchObject({ stale: { worlds: false }, dropped: [] });
  expect(bridge.Revision()).toBe(revision + 1);
});

test('refusals come as answers, never as exceptions', () => {
  const refusal = (text: string) => (JSON.parse(text) as { refusal?: string }).refusal;
  expect(refusal(bridge.KeepEdits('[{"do":"move","nodes":["gone"],"by":[1,0,0],"space":{"kind":"world"}}]'))).toBe(
    'not-found',
  );
  expect(refusal(bridge.KeepEdits('[{"do":"dance"}]'))).toBe('not-understood');
  expect(refusal(bridge.KeepEdits('rubbish'))).toBe('not-understood');
  expect(refusal(begin({ ...rotate(), nodes: [] }))).toBe('nothing-picked');
  expect(refusal(bridge.KeepTrial())).toBe('not-understood');
  expect(refusal(bridge.Understand('5 apples', 'length', true, 0))).toBe('not-understood');
  expect(JSON.parse(bridge.Understand('by 10cm', 'length', true, 2))).toEqual({ mode: 'add', amount: 0.1, value: 2.1 });
});

test('a shape’s triangles come through the binary form', () => {
  const [part] = readGeometry(bridge.GeometryOf('drum'));
  expect(part!.mode).toBe('triangles');
  part!.geometry.computeBoundingBox();
  const box = part!.geometry.boundingBox!;
  expect(box.max.y - box.min.y).toBeCloseTo(0.78, 6);
  expect(part!.geometry.getAttribute('normal').count).toBe(part!.geometry.getAttribute('position').count);
  expect(() => readGeometry(new Uint8Array(64))).toThrow();
});

test('a shape says its own parameters and no others, wherever it is said', () => {
  const own = ['caps', 'height', 'radius', 'segments', 'type'];
  const { node } = JSON.parse(bridge.Node('drum')) as { node: { shape: object } };
  const { distinct } = JSON.parse(bridge.LooksOf('["drum"]')) as { distinct: { shape: object }[] };
  const stored = JSON.parse(bridge.Stored('drum')) as { shape: object };
  for (const shape of [node.shape, distinct[0]!.shape, stored.shape]) {
    const keys = Object.keys(shape).sort();
    expect(keys.filter((key) => !own.includes(key) && key !== 'topRadius')).toEqual([]);
    expect(Object.values(shape)).not.toContain(null);
  }
});

test('bounds for framing hold what rides along', () => {
  const alone = bridge.BoundsOf('["moon"]');
  const branch = bridge.BoundsOf('["earth-arm"]');
  for (const i of [0, 1, 2]) {
    expect(branch[i]).toBeLessThanOrEqual(alone[i]!);
    expect(branch[i + 3]).toBeGreaterThanOrEqual(alone[i + 3]!);
  }
  expect([...bridge.BoundsOf('["gone"]')]).toEqual([]);
  expect(bridge.AnchorInWords(0, -1, 0)).toBe('the middle of the base');
});
