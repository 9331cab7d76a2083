import { expect, test } from '@playwright/test';
import { Vector3 } from 'three';
import { clash, commands } from '../../src/commands';
import { alignments } from '../../src/commands/placing';
import type { OutlineRow } from '../../src/core/outline';
import { aboutsFor, pickingWords, snapWords, spacesFor } from '../../src/acts/words';
import { arcFrame } from '../../src/stage/layer';
import { movedBy } from '../../src/stage/snapping';
import { template } from '../../src/acts/edits';
import { get, set, type PageState } from '../../src/state/store';
import { row } from './made';

/** What the page says and asks of the core when things are placed; without a page. */
const view = () => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 5, 1];
const named = (id: string, kind: OutlineRow['kind'], parent: string | null = null) =>
  row(id, parent, { kind, name: id.toUpperCase() });

const fresh = { ...get() };
test.beforeEach(() =>
  set({ ...fresh, selection: ['a', 'b'], marks: [named('ramp', 'mark'), named('hinge', 'mark')] }, true),
);

const edit = (state: Partial<PageState>) => {
  set(state);
  return template(view) as { edit: Record<string, unknown>; space: object };
};

test('marks are axes and points by their names, channels only for turning', () => {
  const kinds = (verb: 'move' | 'rotate' | 'scale' | 'pivot') => spacesFor(verb).map((w) => w.kind);
  expect(kinds('rotate')).toContain('channels');
  for (const verb of ['move', 'scale', 'pivot'] as const) expect(kinds(verb)).not.toContain('channels');
  for (const verb of ['move', 'rotate', 'scale', 'pivot'] as const) expect(kinds(verb)).toContain('mark:ramp');
  expect(spacesFor('move').find((w) => w.kind === 'mark:ramp')!.one).toBe("the mark RAMP's");
  expect(aboutsFor().map((w) => w.one)).toContain('the mark HINGE');
});

test('the sentence becomes the edit that the API writes', () => {
  const { spaces, abouts } = get();
  expect(edit({ verb: 'move', spaces: { ...spaces, move: 'mark:ramp' } }).space).toEqual({
    kind: 'mark',
    mark: 'ramp',
  });
  expect(edit({ verb: 'rotate', abouts: { ...abouts, rotate: 'mark:hinge' } }).edit).toMatchObject({
    do: 'rotate',
    about: { kind: 'mark', mark: 'hinge' },
    effect: 'whole',
  });
  // A rotation channel turns about the own pivot, whatever point was chosen before.
  expect(edit({ verb: 'rotate', spaces: { ...spaces, rotate: 'channels' }, placesOnly: true }).edit).toMatchObject({
    space: { kind: 'channels' },
    about: { kind: 'own' },
    effect: 'whole',
  });
  expect(edit({ verb: 'scale', placesOnly: true }).edit).toMatchObject({ effect: 'places' });
  expect(edit({ verb: 'pivot', pivotNumbers: true }).edit).toEqual({
    do: 'movePivot',
    nodes: ['a', 'b'],
    keep: 'numbers',
  });
  expect(edit({ verb: 'scale', selection: ['a'] }).edit).toMatchObject({ effect: 'whole' });
  set({ selection: [] });
  expect(template(view)).toBeNull();
});

test('a drag snaps to nothing that it moves; a pivot moves alone', () => {
  const children = new Map<string | null, string[]>([
    [null, ['a', 'b', 'd']],
    ['a', ['c']],
    ['c', ['e']],
  ]);
  set({ selection: ['a'], children, verb: 'move' });
  expect([...movedBy(get())].toSorted()).toEqual(['a', 'c', 'e']);
  set({ verb: 'pivot' });
  expect(movedBy(get()).size).toBe(0);
});

test('an arc stands square to its axis, also where the three axes are not square to each other', () => {
  const skewed = [new Vector3(1, 0, 0), new Vector3(0.6, 0.8, 0), new Vector3(0, 0.3, 1).normalize()];
  const lined = [new Vector3(1, 0, 0), new Vector3(0, 1, 0), new Vector3(1, 0, 0)];
  for (const axes of [skewed, lined])
    for (const i of [0, 1, 2]) {
      const { a, b } = arcFrame(axes, i);
      expect(Math.abs(a.dot(axes[i]!))).toBeLessThan(1e-9);
      expect(Math.abs(b.dot(axes[i]!))).toBeLessThan(1e-9);
      expect(a.length()).toBeCloseTo(1, 9);
      // Counter-clockwise seen from the axis' tip.
      expect(a.clone().cross(b).dot(axes[i]!)).toBeCloseTo(1, 9);
    }
  const square = [new Vector3(1, 0, 0), new Vector3(0, 1, 0), new Vector3(0, 0, 1)];
  expect(arcFrame(square, 0).a.toArray()).toEqual([0, 1, 0]);
});

test('every kind of press says what it wants', () => {
  for (const words of Object.values(pickingWords)) expect(words).toContain('Esc leaves');
  expect(new Set(snapWords.map((w) => w.kind)).size).toBe(7);
});

test('what places things is found by the words of the trade, and has keys that clash with none', () => {
  const found = (word: string) =>
    commands.filter((c) => `${c.says} ${c.also ?? ''}`.toLowerCase().includes(word)).length;
  for (const word of [
    'align',
    'distribute',
    'mirror',
    'drop',
    'magnet',
    'pivot',
    'origin',
    'normals',
    'gimbal',
    'cursor',
  ])
    expect(found(word), word).toBeGreaterThan(0);
  expect(clash('n', 'undo')).toContain('Snap');
  expect(clash('q', 'undo')).toContain('Rehearse');
  for (const chord of ['Ctrl+t', 'Ctrl+Shift+n', 'Ctrl+w', 'F5', 'F12', 'Alt+ArrowLeft', 'Ctrl+l'])
    expect(clash(chord, 'undo'), chord).toContain('Browsers keep');
  for (const command of commands)
    for (const key of command.keys)
      expect(clash(key, command.id) ?? '', `${command.id} ${key}`).not.toContain('Browsers');
  expect(new Set(alignments.map((a) => a.says)).size).toBe(alignments.length);
});
