// What comes in and goes out of the server: photographs, hostile uploads with other people at work meanwhile, large exports.
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads';
import { crc32, deflateRawSync, deflateSync } from 'node:zlib';

const median = (list) => list.toSorted((a, b) => a - b)[list.length >> 1];
const person = () => `calm-pivot-person=${Array.from({ length: 43 }, () => 'abcdefghij'[Math.floor(Math.random() * 10)]).join('')}`;

function chunk(name, data) {
  const named = Buffer.concat([Buffer.from(name, 'latin1'), data]);
  const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
  length.writeUInt32BE(data.length);
  sum.writeUInt32BE(crc32(named));
  return Buffer.concat([length, named, sum]);
}

/** A PNG of one bit a pixel, all black. */
function black(width, height) {
  const head = Buffer.from([0, 0, 0, 0, 0, 0, 0, 0, 1, 0, 0, 0, 0]);
  head.writeUInt32BE(width);
  head.writeUInt32BE(height, 4);
  const rows = deflateSync(Buffer.alloc((1 + Math.ceil(width / 8)) * height), { level: 9 });
  return Buffer.concat([Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'), chunk('IHDR', head), chunk('IDAT', rows), chunk('IEND', Buffer.alloc(0))]);
}

/** A photograph as cameras make them: noisy, and said to lie on its side where wanted. Made in a page, which has an encoder. */
async function photograph(page, width, height, orientation) {
  const made = await page.evaluate(
    async ([w, h]) => {
      const canvas = new OffscreenCanvas(w, h);
      const image = new ImageData(w, h);
      for (let i = 0; i < image.data.length; i++) image.data[i] = i % 4 === 3 ? 255 : (i / w / 40 + Math.random() * 60) & 255;
      canvas.getContext('2d').putImageData(image, 0, 0);
      const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.8 });
      return new Promise((done) => {
        const reader = new FileReader();
        reader.onload = () => done(reader.result.split(',')[1]);
        reader.readAsDataURL(blob);
      });
    },
    [width, height],
  );
  const jpeg = Buffer.from(made, 'base64');
  // EXIF with the orientation alone.
  const exif = Buffer.from([0xff, 0xe1, 0, 34, 0x45, 0x78, 0x69, 0x66, 0, 0, 0x49, 0x49, 42, 0, 8, 0, 0, 0, 1, 0, 0x12, 1, 3, 0, 1, 0, 0, 0, orientation, 0, 0, 0, 0, 0, 0, 0]);
  return Buffer.concat([jpeg.subarray(0, 2), exif, jpeg.subarray(2)]);
}

/** A JPEG that says it is of this size, and holds nothing of it. */
function hollow(jpeg, side) {
  const cut = Buffer.from(jpeg.subarray(0, Math.min(jpeg.length, 700)));
  for (let at = 0; at + 9 < cut.length; at++)
    if (cut[at] === 0xff && (cut[at + 1] === 0xc0 || cut[at + 1] === 0xc2)) {
      cut.writeUInt16BE(side, at + 5);
      cut.writeUInt16BE(side, at + 7);
      break;
    }
  return Buffer.concat([cut, Buffer.from([0xff, 0xd9])]);
}

/** An archive of a scene whose points are so many zeros. */
function zeros(count) {
  const json = Buffer.from(
    JSON.stringify({ asset: { version: '2.0' }, scenes: [{ nodes: [0] }], nodes: [{ mesh: 0 }], meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }], accessors: [{ bufferView: 0, componentType: 5126, count, type: 'VEC3', min: [0, 0, 0], max: [0, 0, 0] }], bufferViews: [{ buffer: 0, byteLength: 12 * count }], buffers: [{ byteLength: 12 * count, uri: 'a.bin' }] }),
  );
  const [parts, central] = [[], []];
  let at = 0;
  for (const [name, data] of [['it.gltf', json], ['a.bin', Buffer.alloc(12 * count)]]) {
    const packed = deflateRawSync(data, { level: 9 });
    const head = Buffer.alloc(26);
    head.writeUInt16LE(20, 0);
    head.writeUInt16LE(8, 4);
    head.writeUInt32LE(crc32(data), 10);
    head.writeUInt32LE(packed.length, 14);
    head.writeUInt32LE(data.length, 18);
    head.writeUInt16LE(name.length, 22);
    const local = Buffer.concat([Buffer.from('PK\x03\x04', 'latin1'), head, Buffer.from(name), packed]);
    const entry = Buffer.alloc(16);
    entry.writeUInt32LE(at, 12);
    central.push(Buffer.concat([Buffer.from('PK\x01\x02\x14\x00', 'latin1'), head, entry.subarray(2), Buffer.from(name)]));
    parts.push(local);
    at += local.length;
  }
  const directory = Buffer.concat(central);
  const end = Buffer.alloc(22);
  end.write('PK\x05\x06', 'latin1');
  end.writeUInt16LE(2, 8);
  end.writeUInt16LE(2, 10);
  end.writeUInt32LE(directory.length, 12);
  end.writeUInt32LE(at, 16);
  return Buffer.concat([...parts, directory, end]);
}

/** Objects that are each a triangle, at the top of a scene. */
function triangles(count) {
  const points = Buffer.from(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]).buffer).toString('base64');
  return Buffer.from(
    JSON.stringify({ asset: { version: '2.0' }, scene: 0, scenes: [{ nodes: Array.from({ length: count }, (_, i) => i) }], nodes: Array.from({ length: count }, (_, i) => ({ name: `Part ${i}`, mesh: 0, translation: [i % 300, 0, i / 300] })), meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }], accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [1, 1, 0] }], bufferViews: [{ buffer: 0, byteLength: 36 }], buffers: [{ byteLength: 36, uri: `data:application/octet-stream;base64,${points}` }] }),
  );
}

/** Two people who mean well, on a thread of their own, so that they wait for nobody who sends large files from here. */
async function work({ url, scene, importer, editor, small }) {
  let going = true;
  parentPort.once('message', () => (going = false));
  const every = async (pause, path, body, type, cookie) => {
    const times = [];
    while (going) {
      const start = performance.now();
      const response = await fetch(url + path, { method: 'POST', headers: { 'content-type': type, cookie }, body });
      if (!response.ok) throw new Error(await response.text());
      await response.arrayBuffer();
      times.push(performance.now() - start);
      await new Promise((next) => setTimeout(next, pause));
    }
    return times;
  };
  const move = JSON.stringify({ base: 1_000_000, edits: [{ do: 'move', nodes: ['a'], by: [0.01, 0, 0], space: { kind: 'world' } }] });
  const [imports, edits] = await Promise.all([
    every(100, '/api/scenes/import?name=Small', small, 'model/gltf+json', importer),
    every(50, `/api/scenes/${scene}/edits`, move, 'application/json', editor),
  ]);
  parentPort.postMessage({ imports, edits });
}

/** @param pid The process of the server, whose memory is looked at. */
export async function measureUploads({ url, pid, browser, report }) {
  const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024;
  const send = (path, body, type = 'image/png', cookie = person(), method = 'POST', headers = {}) =>
    fetch(url + path, { method, headers: { ...(body === undefined ? {} : { 'content-type': type }), cookie, ...headers }, body });
  const made = async (response) => {
    if (!response.ok) throw new Error(await response.text());
    return response.json();
  };
  const scene = await made(await send('/api/scenes', JSON.stringify({ name: 'Uploads' }), 'application/json'));
  await made(await send(`/api/scenes/${scene.id}/edits`, JSON.stringify({ base: 1, edits: [{ do: 'create', node: { id: 'a', name: 'A', kind: 'shape' } }] }), 'application/json'));
  const most = async (act) => {
    let peak = 0;
    const looking = setInterval(() => (peak = Math.max(peak, memory())), 20);
    const before = memory();
    await act();
    clearInterval(looking);
    return Math.max(0, peak - before);
  };

  const page = await browser.newPage();
  const photos = [];
  for (const orientation of [1, 3, 6, 8]) photos.push(await photograph(page, 4000, 3000, orientation));
  await page.close();
  await made(await send(`/api/scenes/${scene.id}/pictures?name=First`, black(800, 600)));
  const times = [];
  const more = await most(async () => {
    for (const photo of photos) {
      const start = performance.now();
      await made(await send(`/api/scenes/${scene.id}/pictures?name=Photo`, photo));
      times.push(performance.now() - start);
    }
  });
  report('A photograph of 12 megapixels of any orientation, until it is kept', Math.max(...times) / 1000, { value: 3, unit: ' s' }, `the slowest of four, of ${(photos[0].length / 2 ** 20).toFixed(1)} MB; the quickest ${(Math.min(...times) / 1000).toFixed(2)} s`);
  report('Memory that these take, over rest', more, { value: 200, unit: ' MB' }, 'resident, one after the other');

  // Forty at once, each of somebody else, with two people who mean well.
  const archive = zeros(39_000_000);
  const words = Buffer.concat([Buffer.from('{"asset":{"version":"2.0"},"extras":[0'), Buffer.alloc(60 << 20, ',0'), Buffer.from(']}')]);
  // All made beforehand, so that nobody waits for who makes them.
  const stills = `/api/scenes/${scene.id}/stills?revision=1`;
  const card = `/api/scenes/${scene.id}/picture?revision=1`;
  const bodies = [
    [`/api/scenes/${scene.id}/pictures?name=H`, hollow(photos[0], 8192)],
    [`/api/scenes/${scene.id}/pictures?name=B`, black(8192, 8192)],
    [`/api/scenes/${scene.id}/pictures?name=P`, photos[2]],
    ['/api/scenes/import?name=Z', archive, 'application/zip'],
    ['/api/scenes/import?name=W', words, 'model/gltf+json'],
    ['/api/scenes/import?name=T', triangles(60_000), 'model/gltf+json'],
    [stills, black(30_000, 30_000)],
    [stills, Buffer.concat([black(16, 16), Buffer.alloc(100 << 20)])],
    [card, black(16_000, 120_000).subarray(0, 250_000), 'image/png', 'PUT'],
    [card, Buffer.concat([Buffer.from([0xff, 0xd8, 0xff]), Buffer.from('<html>')]), 'image/png', 'PUT'],
  ];
  const kinds = bodies.map(([path, body, type, method]) => () => send(path, body, type, person(), method));
  const [imports, edits, answers] = [[], [], {}];
  const [importer, editor, small] = [person(), person(), triangles(20)];
  const others = new Worker(new URL(import.meta.url), { workerData: { url, scene: scene.id, importer, editor, small } });
  await once(others, 'online');
  const taken = await most(async () => {
    await Promise.all(
      Array.from({ length: 40 }, async (_, i) => {
        const response = await kinds[i % kinds.length]();
        await response.arrayBuffer();
        answers[response.status] = (answers[response.status] ?? 0) + 1;
      }),
    );
    others.postMessage('enough');
    const [measured] = await once(others, 'message');
    imports.push(...measured.imports);
    edits.push(...measured.edits);
  });
  const said = Object.entries(answers).map(([status, count]) => `${count} × ${status}`).join(', ');
  report('Memory that 40 hostile uploads of ten kinds at once take, over rest', taken / 1024, { value: 1, unit: ' GB' }, `resident; answered ${said}`);
  report('Another person’s small import meanwhile, the slowest', Math.max(...imports) / 1000, { value: 2, unit: ' s' }, `of ${imports.length}, median ${median(imports).toFixed(0)} ms`);
  report('Another person’s edit meanwhile, median', median(edits), { value: 200, unit: ' ms' }, `of ${edits.length}, the slowest ${Math.max(...edits).toFixed(0)} ms`);

  const large = await made(await send('/api/scenes/import?name=Large', triangles(100_000), 'model/gltf+json'));
  const half = await made(await send('/api/scenes/import?name=Half', triangles(50_000), 'model/gltf+json'));
  const took = async (id) => {
    const start = performance.now();
    await (await send(`/api/scenes/${id}/export`, undefined, undefined, person(), 'GET')).arrayBuffer();
    return performance.now() - start;
  };
  const [fifty, hundred] = [await took(half.id), await took(large.id)];
  report('100 000 nodes exported', hundred / 1000, { value: 20, unit: ' s' }, `50 000: ${(fifty / 1000).toFixed(2)} s`);
  report('The same against 50 000', hundred / fifty, { value: 3, unit: ' ×' }, 'in proportion: 2');
  const ends = [];
  for (let i = 1; i <= 5; i++) {
    const [mine, work] = [person(), `w${i}`];
    const asked = send(`/api/scenes/${large.id}/export`, undefined, undefined, mine, 'GET', { work });
    await new Promise((next) => setTimeout(next, (i * hundred) / 12));
    const start = performance.now();
    const { ended } = await made(await send(`/api/me/work/${work}`, undefined, undefined, mine, 'DELETE'));
    ends.push(ended === 'stopped' ? performance.now() - start : 0);
    await (await asked).arrayBuffer();
  }
  report('An export of it stopped in the middle, until it has ended', Math.max(...ends) / 1000, { value: 1, unit: ' s' }, `the slowest of five, stopped at a twelfth of its time to five; ${ends.map((e) => (e / 1000).toFixed(2)).join(', ')} s`);
}

if (!isMainThread) await work(workerData);

// By itself: node benchmarks/uploads.mjs, with CALM_PIVOT_URL and CALM_PIVOT_PID.
if (isMainThread && process.argv[1] === new URL(import.meta.url).pathname) {
  const { chromium } = await import(new URL('../web/node_modules/@playwright/test/index.mjs', import.meta.url));
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
  await measureUploads({
    url: process.env.CALM_PIVOT_URL,
    pid: process.env.CALM_PIVOT_PID,
    browser,
    report: (measure, figure, limit, detail) => console.log(`${figure <= limit.value ? 'holds ' : 'MISSED'}  ${measure}: ${figure.toFixed(2)}${limit.unit} (at most ${limit.value}${limit.unit}); ${detail}`),
  });
  await browser.close();
}
