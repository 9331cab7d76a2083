// Measures side by side, in one run, what the project promises, and writes docs/benchmarks.md.
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { cpus, totalmem } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const { chromium } = await import(join(root, 'web/node_modules/@playwright/test/index.mjs'));
const url = process.env.CALM_PIVOT_URL;
const rows = [];

const median = (list) => list.toSorted((a, b) => a - b)[list.length >> 1];
const post = async (path, body) => {
  const response = await fetch(url + path, { method: 'POST', headers: { 'content-type': 'application/json', cookie: `calm-pivot-person=${'b'.repeat(43)}` }, body: JSON.stringify(body) });
  if (!response.ok) throw new Error(await response.text());
  return response.json();
};

function report(measure, figure, limit, detail) {
  const held = figure <= limit.value;
  rows.push(`| ${measure} | ${figure.toFixed(2)}${limit.unit} | ${limit.value}${limit.unit} | ${held ? 'yes' : '**no**'} | ${detail} |`);
  console.log(`${held ? 'holds ' : 'MISSED'}  ${measure}: ${figure.toFixed(2)}${limit.unit} (at most ${limit.value}${limit.unit}); ${detail}`);
}

/** A scene of groups in a tree of four children each; one node, "mover", carries 100 followers. */
async function tree(count) {
  const { id } = await post('/api/scenes', { name: `Bench ${count}` });
  let base = 1;
  const node = (i) => ({ do: 'create', node: { id: `n${i}`, name: `Node ${i}`, kind: 'group', placement: { position: [0.1, 0.2, 0.3], rotation: [0, 10, 0] } }, under: i === 0 ? null : `n${(i - 1) >> 2}` });
  const followers = Math.min(101, count);
  const edits = Array.from({ length: count - followers }, (_, i) => node(i));
  for (let i = 0; i < followers; i++) edits.push({ do: 'create', node: { id: i === 0 ? 'mover' : `f${i}`, name: `Follower ${i}`, kind: 'group', placement: { position: [0.1, 0, 0] } }, under: i === 0 ? null : 'mover' });
  for (let i = 0; i < edits.length; i += 5000) base = (await post(`/api/scenes/${id}/edits`, { base, edits: edits.slice(i, i + 5000) })).revision;
  return { id, base };
}

const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'] });

async function open(id) {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await page.route('**/bench/*', (route) => route.fulfill({ contentType: 'text/javascript', body: readFileSync(join(root, 'web/node_modules/three/build', route.request().url().split('/').pop()), 'utf8') }));
  await page.goto(`${url}/?scene=${id}`);
  await page.waitForSelector('[role=tree]', { timeout: 120_000 });
  await page.waitForTimeout(1500);
  return page;
}

/** Milliseconds that the main thread has spent on script, style and layout, as the browser counts them. */
async function clock(page) {
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Performance.enable');
  return async () => {
    const { metrics } = await cdp.send('Performance.getMetrics');
    const of = (name) => metrics.find((m) => m.name === name).value;
    return 1000 * (of('ScriptDuration') + of('LayoutDuration') + of('RecalcStyleDuration'));
  };
}

/** A wavy sheet of some triangles, as a file. */
async function denseFile(triangles) {
  const n = Math.ceil(Math.sqrt(triangles / 2));
  const positions = new Float32Array(3 * (n + 1) * (n + 1));
  for (let z = 0, at = 0; z <= n; z++) for (let x = 0; x <= n; x++) {
    positions[at++] = (4 * x) / n - 2;
    positions[at++] = 0.2 * Math.sin(x / 9) * Math.cos(z / 7);
    positions[at++] = (4 * z) / n - 2;
  }
  const indices = new Uint32Array(6 * n * n);
  for (let z = 0, at = 0; z < n; z++) for (let x = 0; x < n; x++) {
    const a = z * (n + 1) + x;
    for (const i of [a, a + n + 1, a + 1, a + 1, a + n + 1, a + n + 2]) indices[at++] = i;
  }
  const bin = Buffer.concat([Buffer.from(positions.buffer), Buffer.from(indices.buffer)]);
  const json = JSON.stringify({
    asset: { version: '2.0' },
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [{ mesh: 0, name: 'Sheet' }],
    meshes: [{ primitives: [{ attributes: { POSITION: 0 }, indices: 1 }] }],
    accessors: [
      { bufferView: 0, componentType: 5126, count: positions.length / 3, type: 'VEC3', min: [-2, -0.2, -2], max: [2, 0.2, 2] },
      { bufferView: 1, componentType: 5125, count: indices.length, type: 'SCALAR' },
    ],
    bufferViews: [{ buffer: 0, byteOffset: 0, byteLength: positions.byteLength }, { buffer: 0, byteOffset: positions.byteLength, byteLength: indices.byteLength }],
    buffers: [{ byteLength: bin.length }],
  });
  const text = Buffer.from(json.padEnd(Math.ceil(json.length / 4) * 4));
  const head = (length, type) => {
    const b = Buffer.alloc(8);
    b.writeUInt32LE(length, 0);
    b.write(type, 4, 'latin1');
    return b;
  };
  const whole = Buffer.concat([head(text.length, 'JSON'), text, head(bin.length, 'BIN\0'), bin]);
  const file = Buffer.alloc(12);
  file.write('glTF');
  file.writeUInt32LE(2, 4);
  file.writeUInt32LE(12 + whole.length, 8);
  return Buffer.concat([file, whole]);
}

// Constraints: a target that 100 parts aim at, whole evaluation, partial weights, and what stays on a surface.
{
  /** The usual tree, and parts at its top that look at "star". */
  async function aiming(count, parts, constraint) {
    const { id, base } = await tree(count - parts - 1);
    const edits = [{ do: 'create', node: { id: 'star', name: 'Star', kind: 'group', placement: { position: [40, 30, 20] } } }];
    for (let i = 0; i < parts; i++) edits.push({ do: 'create', node: { id: `p${i}`, name: `Part ${i}`, kind: 'group', placement: { position: [i % 40, (i / 40) | 0, 3], rotation: [10, 20, 30] } } });
    if (constraint) edits.push(...[0, 1].map((half) => ({ do: 'constrain', nodes: Array.from({ length: parts / 2 }, (_, i) => `p${2 * i + half}`), constraint: constraint[half % constraint.length] })));
    await post(`/api/scenes/${id}/edits`, { base, edits });
    return id;
  }
  const aim = { kind: 'aim', target: 'star', axis: '+z', upAxis: '+y' };
  const swivel = { kind: 'swivel', target: 'star', hinge: [0, 1, 0], facing: '+z' };
  const drag = (page, changed) =>
    page.evaluate((wanted) => {
      const core = window.calmPivotCore;
      const space = { kind: 'world' };
      core.begin({ do: 'move', nodes: ['star'], by: [0, 0, 0], space }, space);
      const times = [];
      for (let k = 0; k < 60; k++) {
        const start = performance.now();
        core.try([k * 0.3, k * 0.1, 0]);
        if (core.changed().length !== wanted) throw new Error(`${core.changed().length} changed`);
        times.push(performance.now() - start);
      }
      core.putBack();
      return times;
    }, changed);
  const pages = [];
  for (const count of [10_000, 50_000, 1_000]) pages.push(await open(await aiming(count, 100, [aim])));
  const times = [[], [], []];
  for (let round = 0; round < 12; round++) for (const [i, page] of pages.entries()) times[i].push(...(await drag(page, 101)));
  const [middle, large, small] = times.map((t) => median(t.slice(t.length / 2)));
  report('One drag step of a target that 100 parts aim at, among 10 000 nodes, core time', middle, { value: 1, unit: ' ms' }, 'median');
  report('The same among 50 000 nodes against 1 000', large / small, { value: 1.2, unit: ' ×' }, `${large.toFixed(3)} ms against ${small.toFixed(3)} ms`);
  for (const page of pages) await page.context().close();

  // Builds alternate: the same nodes with and without.
  const scenes = [];
  for (const c of [[aim, swivel], null, [{ ...aim, weight: 0.5 }, { ...swivel, weight: 0.5 }]]) scenes.push(await open(await aiming(10_000, 1_000, c)));
  const sweeps = [[], [], []];
  for (let round = 0; round < 10; round++)
    for (const [i, page] of scenes.entries())
      sweeps[i].push(
        ...(await page.evaluate(() => {
          const times = [];
          for (let k = 0; k < 40; k++) {
            const start = performance.now();
            window.calmPivotCore.sweep();
            times.push(performance.now() - start);
          }
          return times;
        })),
      );
  const [tied, free, partial] = sweeps.map((t) => median(t.slice(t.length / 2)));
  report('Evaluating 10 000 nodes of which 1 000 aim or swivel, against without', tied / free, { value: 3, unit: ' ×' }, `${tied.toFixed(2)} ms against ${free.toFixed(2)} ms`);
  report('A partial weight, each', (1000 * (partial - tied)) / 1000, { value: 20, unit: ' µs' }, `${partial.toFixed(2)} ms against ${tied.toFixed(2)} ms for 1 000`);
  for (const page of scenes) await page.context().close();
}

// A marble on a surface of 200 000 triangles.
{
  const glb = await denseFile(200_000);
  const made = await fetch(`${url}/api/scenes/import?name=Dense`, { method: 'POST', headers: { 'content-type': 'model/gltf-binary', cookie: `calm-pivot-person=${'b'.repeat(43)}` }, body: glb });
  const scene = await made.json();
  const [mesh] = scene.nodes.filter((n) => n.kind === 'mesh');
  await post(`/api/scenes/${scene.id}/edits`, { base: scene.revision, edits: [{ do: 'create', node: { id: 'marble', name: 'Marble', kind: 'shape', shape: { type: 'ball', radius: 0.1 }, placement: { position: [0.3, 3, 0.2] } } }] });
  const page = await open(scene.id);
  const { first, steps } = await page.evaluate(async (target) => {
    const core = window.calmPivotCore;
    let start = performance.now();
    core.tryEdits([{ do: 'constrain', nodes: ['marble'], constraint: { kind: 'stayOnSurface', target } }]);
    const first = performance.now() - start;
    core.putBack();
    window.calmPivotSession.keep({ do: 'constrain', nodes: ['marble'], constraint: { kind: 'stayOnSurface', target } });
    await new Promise((done) => setTimeout(done, 500));
    const space = { kind: 'world' };
    core.begin({ do: 'move', nodes: ['marble'], by: [0, 0, 0], space }, space);
    const steps = [];
    for (let k = 0; k < 300; k++) {
      start = performance.now();
      core.try([Math.sin(k / 20), 0, Math.cos(k / 20)]);
      steps.push(performance.now() - start);
    }
    core.putBack();
    return { first, steps: steps.slice(100) };
  }, mesh.id);
  report('A pointer move of a part that stays on a surface of 200 000 triangles, core time in the page', median(steps), { value: 2, unit: ' ms' }, 'median');
  report('The first use of that surface', first, { value: 50, unit: ' ms' }, 'with the order of its triangles as the server stored it');
  await page.context().close();
}

await browser.close();
