import { expect, test } from '@playwright/test';
import type { Core } from '../../src/core/core';
import type { Heard, Kept, ServerStep } from '../../src/core/answers';
import type { StepAnswer } from '../../src/api/client';
import { Outbox, type Unsent } from '../../src/api/outbox';
import { Sync } from '../../src/api/sync';

interface Call {
  path: string;
  base: number;
  key: string;
}

/** The browser's storage, as far as it is used; it can be full. */
class Shelf {
  readonly entries = new Map<string, string>();
  full = false;
  get length(): number {
    return this.entries.size;
  }
  key = (i: number) => [...this.entries.keys()][i] ?? null;
  getItem = (key: string) => this.entries.get(key) ?? null;
  removeItem = (key: string) => void this.entries.delete(key);
  setItem = (key: string, text: string) => {
    if (this.full) throw new Error('full');
    this.entries.set(key, text);
  };
  steps = () => [...this.entries.keys()].filter((key) => key.startsWith('unsent/'));
}

const nothing = {
  stale: { worlds: false, outline: false, rows: [], looks: [], shots: false, materials: false },
  dropped: [],
  ongoing: null,
};

/** The sending of steps, with a made-up core and a made-up server. */
class Desk {
  revision = 1;
  readonly heard: { revision: number; ticket: number | null }[] = [];
  readonly dropped: number[] = [];
  readonly agreed: number[] = [];
  readonly refused: string[] = [];
  readonly calls: (Call & { brief: boolean })[] = [];
  state = { online: true, waiting: 0 };
  reloads = 0;
  wasAway = false;
  /** What the log says; nothing: it does not reach back so far. */
  log: ((after: number) => object) | null = null;
  answer: (call: Call) => Response | Promise<Response> = (call) => Response.json(this.step(call.base + 1, call.key));

  readonly core = {
    revision: () => this.revision,
    hear: (step: ServerStep): Heard => {
      this.revision = step.revision;
      this.heard.push({ revision: step.revision, ticket: step.ticket });
      return nothing;
    },
    agree: (revision: number, ticket: number, digest: string): boolean => {
      if (digest !== 'the same' || revision !== this.revision + 1) return false;
      this.revision = revision;
      this.agreed.push(ticket);
      return true;
    },
    drop: (ticket: number): Heard => {
      this.dropped.push(ticket);
      return nothing;
    },
  } as unknown as Core;

  readonly shelf = new Shelf();
  readonly outbox = new Outbox(this.shelf as unknown as Storage, 'this page', undefined);
  readonly aside: Unsent[] = [];
  /** Whether the server says that it and its database are well. */
  well = true;

  readonly sync = new Sync(
    this.core,
    'scene',
    this.outbox,
    {
      heard: () => undefined,
      setAside: (step) => this.aside.push(step),
      refused: (detail) => this.refused.push(detail),
      state: (state) => {
        this.state = state;
        this.wasAway ||= !state.online;
      },
      described: () => undefined,
      progress: () => undefined,
      stills: () => undefined,
      gone: () => undefined,
      reload: () => this.reloads++,
      picked: () => undefined,
      hearing: () => undefined,
      trying: () => undefined,
    },
    20,
  );

  constructor() {
    globalThis.fetch = async (path, init) => {
      if (path === '/healthz')
        return Response.json({ status: this.well ? 'ok' : 'no database' }, { status: this.well ? 200 : 503 });
      const after = /\/log\?after=(\d+)/.exec(path as string)?.[1];
      if (after !== undefined)
        return this.log
          ? Response.json(this.log(Number(after)))
          : Response.json({ refusal: 'no-longer-kept', detail: 'It is no longer kept.' }, { status: 410 });
      const body = JSON.parse(init!.body as string) as { base: number; key: string };
      const brief = 'Prefer' in ((init!.headers ?? {}) as Record<string, string>);
      const call = { path: path as string, ...body, brief };
      this.calls.push(call);
      return this.answer(call);
    };
  }

  step(revision: number, key?: string): StepAnswer {
    return {
      revision,
      step: { number: revision, sentence: '', by: '', picked: [] },
      changed: [],
      removed: [],
      entities: [],
      gone: [],
      digest: 'the same',
      ...(key ? { key } : {}),
    };
  }

  kept(ticket: number): Kept {
    return {
      ticket,
      sentence: `Step ${ticket}`,
      edits: [{ do: 'rename', node: 'a', name: `${ticket}` }],
      empty: false,
      shot: null,
      narrow: null,
      carry: null,
      stale: { worlds: false, outline: false, rows: [], looks: [], shots: false, materials: false },
    };
  }

  push(step: StepAnswer): void {
    (this.sync as unknown as { hear(step: StepAnswer): void }).hear(step);
  }
}

const idle = (desk: Desk) => expect.poll(() => desk.sync.waiting).toBe(0);

test('steps go out one after the other, each on the revision that the one before led to', async () => {
  const desk = new Desk();
  for (const ticket of [1, 2, 3]) desk.sync.send(desk.kept(ticket));
  await idle(desk);
  expect(desk.calls.map((c) => c.base)).toEqual([1, 2, 3]);
  expect(new Set(desk.calls.map((c) => c.key)).size).toBe(3);
  expect(desk.agreed).toEqual([1, 2, 3]);
  expect(desk.revision).toBe(4);
});

test('what both computed alike is not asked for; what differs is heard in full, by the same call', async () => {
  const desk = new Desk();
  desk.answer = (call) =>
    Response.json({ ...desk.step(call.base + 1, call.key), digest: call.base === 2 ? 'another' : 'the same' });
  const asked = () => desk.calls.map((c) => [c.base, c.brief]);
  for (const ticket of [1, 2, 3]) desk.sync.send(desk.kept(ticket));
  await idle(desk);
  expect(desk.agreed).toEqual([1, 3]);
  expect(asked()).toEqual([
    [1, true],
    [2, true],
    [2, false],
    [3, true],
  ]);
  expect(desk.calls[1]!.key).toBe(desk.calls[2]!.key);
  expect(desk.heard).toEqual([{ revision: 3, ticket: 2 }]);
  expect(desk.revision).toBe(4);
});

test('the push of an own step before its answer is not taken for somebody else’s', async () => {
  const desk = new Desk();
  desk.answer = (call) => {
    const step = { ...desk.step(call.base + 1, call.key), digest: 'another' };
    desk.push(step);
    return Response.json(step);
  };
  desk.sync.send(desk.kept(7));
  await idle(desk);
  expect(desk.heard).toEqual([{ revision: 2, ticket: 7 }]);
  expect(desk.dropped).toEqual([]);
});

test('a step of somebody else that came early is heard right after the own one it waited for', async () => {
  const desk = new Desk();
  desk.push(desk.step(3));
  expect(desk.heard).toEqual([]);
  desk.sync.send(desk.kept(1));
  await idle(desk);
  expect(desk.agreed).toEqual([1]);
  expect(desk.heard).toEqual([{ revision: 3, ticket: null }]);
  expect(desk.revision).toBe(3);
});

test('steps that come early wait for those before them', () => {
  const desk = new Desk();
  desk.push(desk.step(4));
  desk.push(desk.step(3));
  expect(desk.heard).toEqual([]);
  desk.push(desk.step(2));
  expect(desk.heard.map((h) => h.revision)).toEqual([2, 3, 4]);
  desk.push(desk.step(3));
  expect(desk.heard).toHaveLength(3);
});

test('a step that never comes is taken in by the log, bit by bit; own ones by their keys', async () => {
  const desk = new Desk();
  desk.log = (after) => ({
    revision: 9,
    entries: [1, 2, 3]
      .map((i) => after + i)
      .filter((revision) => revision <= 9)
      .map((revision) =>
        revision === 5
          ? {
              revision,
              at: '',
              act: 'described',
              written: [],
              described: { name: 'Other', unit: 'cm', nameWas: '', unitWas: '' },
            }
          : {
              revision,
              at: '',
              act: 'step',
              written: [],
              step: { number: revision, sentence: '', by: '', picked: [] },
            },
      ),
  });
  desk.push(desk.step(9));
  await expect.poll(() => desk.revision, { timeout: 5000 }).toBe(9);
  expect(desk.heard.map((h) => h.revision)).toEqual([2, 3, 4, 5, 6, 7, 8, 9]);
  expect(desk.reloads).toBe(0);
});

test('where the log does not reach back or does not follow on, the scene is opened anew', async () => {
  const desk = new Desk();
  desk.push(desk.step(9));
  await expect.poll(() => desk.reloads, { timeout: 5000 }).toBe(1);
  const other = new Desk();
  other.log = () => ({ revision: 9, entries: [] });
  other.push(other.step(9));
  await expect.poll(() => other.reloads, { timeout: 5000 }).toBe(1);
  expect(other.revision).toBe(1);
});

test('out of reach: the same call, with the same key, until it is answered', async () => {
  const desk = new Desk();
  let failures = 2;
  const answer = desk.answer;
  desk.well = false;
  desk.answer = (call) => {
    if (failures-- > 0)
      return failures === 1 ? Promise.reject(new Error('no network')) : new Response(null, { status: 503 });
    return answer(call);
  };
  desk.sync.send(desk.kept(1));
  expect(desk.state.waiting).toBe(1);
  await idle(desk);
  expect(desk.wasAway).toBe(true);
  expect(desk.calls).toHaveLength(3);
  expect(new Set(desk.calls.map((c) => c.key)).size).toBe(1);
  expect(desk.state.online).toBe(true);
  expect(desk.agreed).toEqual([1]);
});

test('a refusal takes the edit back, says why, and lets the next one go', async () => {
  const desk = new Desk();
  let first = true;
  const answer = desk.answer;
  desk.answer = (call) => {
    if (!first) return answer(call);
    first = false;
    return Response.json(
      { refusal: 'changed-meanwhile', detail: '“Lamp” has been changed meanwhile.' },
      { status: 409 },
    );
  };
  desk.sync.send(desk.kept(1));
  desk.sync.send(desk.kept(2));
  await idle(desk);
  expect(desk.dropped).toEqual([1]);
  expect(desk.refused).toEqual(['“Lamp” has been changed meanwhile.']);
  expect(desk.agreed).toEqual([2]);
  await expect.poll(() => desk.reloads).toBe(1);
});

test('undo waits for the edits before it', async () => {
  const desk = new Desk();
  desk.sync.send(desk.kept(1));
  const undone = desk.sync.restore('undo');
  expect((await undone)!.revision).toBe(3);
  expect(desk.calls.map((c) => c.path)).toEqual(['/api/scenes/scene/edits', '/api/scenes/scene/undo']);
});

test('an own step whose turn has not come yet keeps standing until those before it are heard', async () => {
  const desk = new Desk();
  desk.answer = (call) => Response.json(desk.step(call.base + 2, call.key));
  desk.sync.send(desk.kept(1));
  await idle(desk);
  expect([desk.dropped, desk.agreed, desk.heard]).toEqual([[], [], []]);
  desk.push(desk.step(2));
  expect(desk.heard).toEqual([{ revision: 2, ticket: null }]);
  expect(desk.agreed).toEqual([1]);
});

test('a new name of the scene takes its turn among the steps', () => {
  const desk = new Desk();
  desk.push({ ...desk.step(3), described: { name: 'New', unit: 'cm' } } as StepAnswer);
  expect(desk.revision).toBe(1);
  desk.push(desk.step(2));
  expect(desk.revision).toBe(3);
});

test('a step that the server fails on while it is well is set aside, and the next ones go', async () => {
  const desk = new Desk();
  const answer = desk.answer;
  const bad = new Set<string>();
  desk.answer = (call) => {
    if (bad.size === 0) bad.add(call.key);
    return bad.has(call.key) ? new Response(null, { status: 500 }) : answer(call);
  };
  desk.sync.send(desk.kept(1));
  desk.sync.send(desk.kept(2));
  await idle(desk);
  expect(desk.calls.map((c) => bad.has(c.key))).toEqual([true, true, true, true, false]);
  expect(desk.aside.map((step) => [step.sentence, step.edits])).toEqual([
    ['Step 1', [{ do: 'rename', node: 'a', name: '1' }]],
  ]);
  expect([desk.dropped, desk.agreed]).toEqual([[1], [2]]);
  expect(desk.state.online).toBe(true);
  expect(desk.shelf.entries.size).toBe(0);
});

test('an answer that is no answer does not stop what comes after it', async () => {
  const desk = new Desk();
  const answer = desk.answer;
  const bad = new Set<string>();
  desk.answer = (call) => {
    if (bad.size === 0) bad.add(call.key);
    return bad.has(call.key) ? new Response('<html>') : answer(call);
  };
  desk.sync.send(desk.kept(1));
  desk.sync.send(desk.kept(2));
  await idle(desk);
  expect([desk.aside.length, desk.dropped, desk.agreed]).toEqual([1, [1], [2]]);
});

test('while the database is away nothing is set aside, however long it takes', async () => {
  const desk = new Desk();
  const answer = desk.answer;
  desk.well = false;
  let failures = 12;
  desk.answer = (call) => (failures-- > 0 ? new Response(null, { status: 503 }) : answer(call));
  desk.sync.send(desk.kept(1));
  await idle(desk);
  expect([desk.aside, desk.agreed, desk.calls.length]).toEqual([[], [1], 13]);
});

test('what is unsent is kept until it is answered, and the next page delivers it in order', async () => {
  const desk = new Desk();
  desk.well = false;
  desk.answer = () => Promise.reject(new Error('no network'));
  desk.revision = 5;
  for (const ticket of [1, 2]) desk.sync.send(desk.kept(ticket));
  void desk.sync.restore('redo');
  expect(desk.shelf.steps()).toHaveLength(3);
  await desk.sync.close();
  expect(desk.shelf.steps()).toHaveLength(3);

  // Another page comes; the server is back, refuses the second one and makes the others.
  desk.calls.length = 0;
  desk.answer = (call) =>
    call.path.endsWith('edits') && call.base === 6
      ? Response.json({ refusal: 'locked', detail: 'Drum is locked.' }, { status: 409 })
      : Response.json(desk.step(call.base + 1, call.key));
  const said: string[] = [];
  const next = new Outbox(desk.shelf as unknown as Storage, 'next page', undefined);
  expect(await next.scenes()).toEqual(['scene']);
  await next.deliver('elsewhere', () => undefined);
  expect(desk.shelf.steps()).toHaveLength(3);
  await next.deliver('scene', (text) => said.push(text));
  expect(desk.calls.map((c) => [c.path.split('/').at(-1), c.base])).toEqual([
    ['edits', 5],
    ['edits', 6],
    ['redo', 6],
  ]);
  expect(said).toEqual(['“Step 2” was made before and could only be sent now: Drum is locked.']);
  expect(desk.shelf.entries.size).toBe(0);
});

test('what a living page has in hand is left to it; what stays unreachable stays kept', async () => {
  const shelf = new Shelf();
  const storage = shelf as unknown as Storage;
  const held: string[] = [];
  const locks = {
    request: (name: string) => (held.push(name), new Promise(() => undefined)),
    query: () => Promise.resolve({ held: held.map((name) => ({ name })) }),
  } as unknown as LockManager;
  const step = (key: string): Unsent => ({ key, call: 'edits', edits: [], sentence: key });
  new Outbox(storage, 'living', locks).add('a', step('1'), 1);
  const mine = new Outbox(storage, 'mine', locks);
  mine.takeInHand('a');
  mine.add('a', step('2'), 1);
  mine.add('b', step('3'), 1);
  expect(await mine.scenes()).toEqual(['b']);
  held.length = 0;
  expect((await mine.scenes()).sort()).toEqual(['a', 'b']);
  globalThis.fetch = () => Promise.reject(new Error('no network'));
  await expect(mine.deliver('b', () => undefined)).rejects.toThrow();
  expect(shelf.steps()).toHaveLength(3);
});

test('only where the browser keeps nothing would leaving lose something', () => {
  const shelf = new Shelf();
  shelf.full = true;
  const outbox = new Outbox(shelf as unknown as Storage, 'page', undefined);
  expect(outbox.wouldLose).toBe(false);
  outbox.add('a', { key: '1', call: 'edits', edits: [], sentence: '' }, 1);
  expect(outbox.wouldLose).toBe(true);
  outbox.remove('1');
  expect(outbox.wouldLose).toBe(false);
});
