import { expect, test } from '@playwright/test';
import { onRenewal, putAllBack } from '../../src/state/renewal';
import { withoutPlaces } from '../../src/state/sentenceSlice';
import { atRest, beginning, get, set } from '../../src/state/store';

test('what is about a scene begins as it is when the page does', () => {
  expect(Object.keys(atRest).length).toBeGreaterThan(30);
  for (const [name, value] of Object.entries(atRest))
    expect(beginning[name as keyof typeof beginning], name).toBe(value);
  // What a person chose, and what is open around the stage, outlasts a scene.
  for (const name of ['settings', 'verb', 'axes', 'layout', 'views', 'readIn', 'asSize', 'keepSelection', 'stillAs'])
    expect(Object.keys(atRest)).not.toContain(name);
});

test('what goes by a place that was picked goes with the scene that it was picked in', () => {
  const { snap, spaces, abouts } = beginning;
  expect(withoutPlaces({ snap, spaces, abouts })).toEqual({ snap, spaces, abouts });
  const left = withoutPlaces({
    snap: { ...snap, on: true, source: 'picked', from: [1, 2, 3] },
    spaces: { ...spaces, move: 'surface', rotate: 'world' },
    abouts: { rotate: 'point', scale: 'zero' },
  });
  expect(left.snap).toEqual({ ...snap, on: true, source: 'pivot', from: null });
  expect(left.spaces).toEqual({ ...spaces, move: 'parent', rotate: 'world' });
  expect(left.abouts).toEqual({ rotate: 'own', scale: 'zero' });
});

test('what the page holds quietly does not change how it begins', () => {
  set({ verb: 'rotate', selection: ['a'] });
  Object.assign(get(), { trying: true });
  expect([beginning.verb, beginning.selection, beginning.trying]).toEqual(['move', [], false]);
  set({ ...beginning });
  expect(get().verb).toBe('move');
});

test('what is kept beside the slices is put back by those who keep it', () => {
  const said: string[] = [];
  onRenewal(() => said.push('one'));
  onRenewal(() => said.push('two'));
  putAllBack();
  expect(said).toEqual(['one', 'two']);
});
