import { expect, test } from '@playwright/test';
import type { Core, Heard, Kept, ServerStep } from '../../src/core/bridge';
import type { StepAnswer } from '../../src/api/client';
import { Sync } from '../../src/api/sync';

interface Call {
  path: string;
  base: number;
  key: string;
}

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
  answer: (call: Call) => Response | Promise<Response> = (call) => Response.json(this.step(call.base + 1, call.key));

  readonly core = {
    revision: () => this.revision,
    hear: (step: ServerStep): Heard => {
      this.revision = step.revision;
      this.heard.push({ revision: step.revision, ticket: step.ticket });
      return { stale: { worlds: false, outline: false, rows: [], looks: [] }, dropped: [] };
    },
    agree: (revision: number, ticket: number, digest: string): boolean => {
      if (digest !== 'the same') return false;
      this.revision = revision;
      this.agreed.push(ticket);
      return true;
    },
    drop: (ticket: number): Heard => {
      this.dropped.push(ticket);
      return { stale: { worlds: false, outline: false, rows: [], looks: [] }, dropped: [] };
    },
  } as unknown as Core;

  readonly sync = new Sync(this.core, 'scene', {
    stale: () => undefined,
    refused: (detail) => this.refused.push(detail),
    state: (state) => (this.state = state),
    described: () => undefined,
    reload: () => this.reloads++,
    picked: () => undefined,
  });

  constructor() {
    globalThis.fetch = async (path, init) => {
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
      digest: 'the same',
      ...(key ? { key } : {}),
    };
  }

  kept(ticket: number): Kept {
    return {
      ticket,
      sentence: '',
      edits: [],
      empty: false,
      stale: { worlds: false, outline: false, rows: [], looks: [] },
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

test('a step that never comes makes the page open the scene anew', async () => {
  const desk = new Desk();
  desk.push(desk.step(9));
  await expect.poll(() => desk.reloads, { timeout: 5000 }).toBe(1);
});

test('out of reach: the same call, with the same key, until it is answered', async () => {
  const desk = new Desk();
  let failures = 2;
  const answer = desk.answer;
  desk.answer = (call) => {
    if (failures-- > 0)
      return failures === 1 ? Promise.reject(new Error('no network')) : new Response(null, { status: 503 });
    return answer(call);
  };
  desk.sync.send(desk.kept(1));
  await expect.poll(() => desk.state.online).toBe(false);
  expect(desk.state.waiting).toBe(1);
  await expect.poll(() => desk.sync.waiting, { timeout: 8000 }).toBe(0);
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
