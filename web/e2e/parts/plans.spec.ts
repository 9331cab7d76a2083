import type { Edit } from '../../src/core/answers';
import { expect, test } from '@playwright/test';
import type { OutlineRow } from '../../src/core/outline';
import { editsOf, freshIds, madeBy, type Ask } from '../../src/acts/plans';
import { type Plan } from '../../src/state/plan';
import { get, isLocked, isSeen, set } from '../../src/state/store';
import { row, show } from './made';

/** What plans make of what is picked, and what the page reads of what is seen; without a page. */
const ask: Ask = {
  viewWorld: () => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 5, 1],
  // In the made-up scene b rides on a.
  tops: (ids) => ids.filter((id) => id !== 'b' || !ids.includes('a')),
  mostCopies: () => 10_000,
};
const copies = (change: Partial<Extract<Plan, { kind: 'copies' }>> = {}): Plan => ({
  kind: 'copies',
  count: 3,
  steps: [{ do: 'rotate', amount: 30, axis: 'y', space: 'world', about: 'zero' }],
  across: null,
  mirror: null,
  sharing: false,
  ...change,
});

test.beforeEach(() => {
  show([row('a'), row('b', 'a', { slot: 1 }), row('c', null, { slot: 2 })]);
  set({ selection: ['b', 'a', 'c'], picked: null, isolation: null });
  freshIds();
});

/** The first edit of a plan, which is of a kind. */
function first<K extends Edit['do']>(plan: Plan, _kind: K): Extract<Edit, { do: K }> {
  const [edit] = editsOf(plan, ask)!;
  return edit as Extract<Edit, { do: K }>;
}

test('what rides on something picked is copied with it, not by itself', () => {
  const edit = first(copies(), 'duplicate');
  expect(edit.nodes).toEqual(['b', 'a', 'c']);
  expect(edit.ids!.map((list) => list.length)).toEqual([2, 2, 2]);
  expect(edit.by).toEqual([{ do: 'rotate', by: 30, axis: 'y', space: { kind: 'world' }, about: { kind: 'zero' } }]);
});

test('the ids stay the same while a plan changes, and are new for the next plan', () => {
  const before = first(copies(), 'duplicate');
  const more = first(copies({ count: 5 }), 'duplicate');
  expect(more.ids!.slice(0, 3)).toEqual(before.ids);
  expect(madeBy(editsOf(copies(), ask)!)).toEqual(before.ids!.flat());
  freshIds();
  expect(first(copies(), 'duplicate').ids).not.toEqual(before.ids);
});

test('a grid has ids for every cell, and too many copies have none', () => {
  const across = {
    count: 2,
    step: { do: 'move' as const, amount: 1, axis: 'z' as const, space: 'own' as const, about: 'own' as const },
  };
  const grid = first(copies({ across }), 'duplicate');
  expect(grid.ids!.length).toBe(4 * 3 - 1);
  expect(grid.across!.by).toEqual([{ do: 'move', by: [0, 0, 1], space: { kind: 'own' } }]);
  const many = first(copies({ count: 100_000 }), 'duplicate');
  expect('ids' in many).toBe(false);
});

test('only the last of very many copies are picked afterwards', () => {
  editsOf(copies({ count: 500 }), ask);
  expect(madeBy(editsOf(copies({ count: 500 }), ask)!).length).toBe(2);
});

test('a counterpart is mirrored across the plane that is chosen, and a group has one id', () => {
  const mirrored = first(
    copies({ count: 1, steps: [], mirror: { axis: 'z', space: 'own', about: 'bounds' } }),
    'duplicate',
  );
  expect(mirrored.by).toEqual([{ do: 'mirror', axis: 'z', space: { kind: 'own' }, about: { kind: 'bounds' } }]);
  const group: Plan = { kind: 'group', at: 'base', name: 'Pair' };
  expect(first(group, 'group').id).toBe(madeBy(editsOf(group, ask)!)[0]);
});

test('what is added goes to each of the picked, at the mark that is the current one, and never to a mark', () => {
  const plan = (where: 'inside' | 'around'): Plan => ({
    kind: 'add',
    node: { kind: 'group', name: 'Group' },
    where,
    at: null,
  });
  const mark = row('m', null, { kind: 'mark' });
  set({ selection: ['b', 'a', 'c', 'm'], currentMark: 'm', byId: new Map([...get().byId, ['m', mark]]) });
  const inside = first(plan('inside'), 'add');
  expect(inside.nodes).toEqual(['a', 'c']);
  expect(inside.at).toEqual({ mark: 'm' });
  expect(madeBy(editsOf(plan('inside'), ask)!)).toEqual(inside.ids);
  const around = first(plan('around'), 'add');
  expect('at' in around).toBe(false);
  set({ selection: ['m'], currentMark: null });
  expect(editsOf(plan('inside'), ask)).toBe(null);
});

test('what is picked goes into a collection or out of it, and a new one is made of it', () => {
  expect(editsOf({ kind: 'collect', collection: 'k', member: false }, ask)).toEqual([
    { do: 'collect', nodes: ['b', 'a', 'c'], collection: 'k', member: false },
  ]);
  const [made] = editsOf({ kind: 'collect', collection: null, member: true }, ask) as [{ do: string; nodes: string[] }];
  expect(made).toMatchObject({ do: 'collection', nodes: ['b', 'a', 'c'] });
});

test('a parent that is still asked for makes no edit, and a renaming only what is filled in', () => {
  expect(editsOf({ kind: 'under', keep: 'world', parent: null, waiting: true }, ask)).toBe(null);
  expect(editsOf({ kind: 'under', keep: 'numbers', parent: 'c', waiting: false }, ask)).toEqual([
    { do: 'putUnder', nodes: ['b', 'a', 'c'], parent: 'c', keep: 'numbers' },
  ]);
  const plan: Plan = {
    kind: 'rename',
    name: 'Leg',
    find: '',
    replace: 'x',
    prefix: '',
    suffix: '',
    from: 'abc',
    digits: 2,
  };
  expect(editsOf(plan, ask)).toEqual([{ do: 'renameMany', nodes: ['b', 'a', 'c'], name: 'Leg' }]);
  set({ selection: [] });
  expect(editsOf(plan, ask)).toBe(null);
});

test('what is seen is read by the bits of the core', () => {
  const { byId } = get();
  set({ sight: Uint16Array.from([1, 33, 6]) });
  const [a, b, c] = ['a', 'b', 'c'].map((id) => byId.get(id)!) as [OutlineRow, OutlineRow, OutlineRow];
  expect([a, b, c].map((r) => isSeen(get(), r))).toEqual([true, false, false]);
  expect([a, b, c].map((r) => isLocked(get(), r))).toEqual([false, false, true]);
  set({ isolation: { ids: ['a'], withBranch: true, dim: true } });
  expect(isSeen(get(), b)).toBe(true);
});
