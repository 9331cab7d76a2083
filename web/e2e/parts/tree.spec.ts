import { expect, test } from '@playwright/test';
import { forgetMarks } from '../../src/acts/currentMark';
import { closedAtFirst, inTree, patchRows, readOutline } from '../../src/acts/outlineRows';
import { get, set } from '../../src/state/store';
import { above, branchOf, othersOf, ridesAlong } from '../../src/state/branches';
import { row, show } from './made';

/** Walks along the tree, and taking in what the core says of it; without a page. */
const fresh = { ...get() };

test.beforeEach(() => {
  set(fresh, true);
  // desk ─ top ─ book, lamp; legs     stool ─ seat     floor
  show([
    row('desk'),
    row('top', 'desk'),
    row('book', 'top'),
    row('lamp', 'top'),
    row('legs', 'desk'),
    row('stool'),
    row('seat', 'stool'),
    row('floor'),
  ]);
});

test('what carries an object is named nearest first', () => {
  expect(above(get(), 'book')).toEqual(['top', 'desk']);
  expect(above(get(), 'floor')).toEqual([]);
  expect(above(get(), 'gone')).toEqual([]);
});

test('branches come in the order of the tree, each object once', () => {
  expect(branchOf(get(), ['desk'])).toEqual(['desk', 'top', 'book', 'lamp', 'legs']);
  expect(branchOf(get(), ['stool', 'top', 'lamp', 'stool'])).toEqual(['stool', 'seat', 'top', 'book', 'lamp']);
  expect(branchOf(get(), [])).toEqual([]);
});

test('all others are the topmost that carry nothing of it', () => {
  expect(othersOf(get(), ['book'])).toEqual(['lamp', 'legs', 'stool', 'floor']);
  expect(othersOf(get(), ['desk', 'seat'])).toEqual(['floor']);
  expect(othersOf(get(), ['desk', 'stool', 'floor'])).toEqual([]);
});

test('what rides along has something picked above it, and is not it', () => {
  set({ selection: ['top'] });
  const riding = (id: string) => ridesAlong(get(), id);
  expect(['desk', 'top', 'book', 'legs'].map(riding)).toEqual([false, false, true, false]);
});

test('the outline parts the tree from what stands beside it', () => {
  const mark = row('corner', 'top', { kind: 'mark' });
  const set1 = row('props', null, { kind: 'collection' });
  readOutline([row('a'), row('b', 'a'), mark, set1]);
  const { rows, marks, collections, children, byId } = get();
  expect(rows.map((r) => r.id)).toEqual(['a', 'b']);
  expect([marks, collections]).toEqual([[mark], [set1]]);
  expect(children.get('a')).toEqual(['b']);
  expect(children.has('top')).toBe(false);
  expect(byId.get('corner')).toBe(mark);
  expect([mark, set1].some(inTree)).toBe(false);
});

test('a list in which nothing changed stays itself', () => {
  readOutline([row('a'), row('b', 'a'), row('props', null, { kind: 'collection' })]);
  const before = get();
  patchRows([row('props', null, { kind: 'collection', working: false })]);
  const after = get();
  expect(after.rows).toBe(before.rows);
  expect(after.collections[0]!.working).toBe(false);
  expect(after.byId.get('props')!.working).toBe(false);
  patchRows([row('b', 'a', { name: 'Bee' })]);
  expect(get().rows.map((r) => r.name)).toEqual(['a', 'Bee']);
  expect(get().collections).toBe(after.collections);
});

test('large scenes begin closed below the second level', () => {
  expect([...closedAtFirst(get().rows)]).toEqual(['top', 'book', 'lamp', 'legs', 'seat']);
});

test('a mark that is gone is no axes, no point and no place for new objects any more', () => {
  set({ spaces: { ...get().spaces, move: 'mark:corner', scale: 'mark:corner' }, currentMark: 'corner' });
  set({ abouts: { rotate: 'mark:corner', scale: 'zero' } });
  forgetMarks();
  expect(get().spaces).toMatchObject({ move: 'parent', scale: 'own' });
  expect(get().abouts).toEqual({ rotate: 'own', scale: 'zero' });
  expect(get().currentMark).toBe(null);
});
