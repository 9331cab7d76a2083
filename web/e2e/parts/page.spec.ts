import { expect, test } from '@playwright/test';
import { BoxGeometry, Matrix4, PlaneGeometry, Sphere, SphereGeometry, Vector3 } from 'three';
import { chordOf, labelOf } from '../../src/commands/chords';
import { byChord, clash, commands, keysOf } from '../../src/commands';
import { best, score } from '../../src/panels/find/match';
import { edgesOf } from '../../src/stage/edges';
import { wayOf } from '../../src/stage/navigation';
import { Spheres } from '../../src/stage/spheres';
import { SelectionSteps } from '../../src/acts/selectionSteps';
import { cleaned, readSettings, settingsOf } from '../../src/state/settings';

const press = (key: string, code: string, held: Partial<Record<'ctrl' | 'shift' | 'alt', true>> = {}) =>
  chordOf({
    key,
    code,
    ctrlKey: held.ctrl ?? false,
    shiftKey: held.shift ?? false,
    altKey: held.alt ?? false,
    metaKey: false,
  });

test('keys count by what they write, digits and other scripts by their place', () => {
  expect(press('z', 'KeyY')).toBe('z');
  expect(press('я', 'KeyZ')).toBe('z');
  expect(press('!', 'Digit1', { shift: true })).toBe('Shift+1');
  expect(press('"', 'Digit2', { shift: true })).toBe('Shift+2');
  expect(press('Z', 'KeyZ', { ctrl: true, shift: true })).toBe('Ctrl+Shift+z');
  expect(press('?', 'Slash', { shift: true })).toBe('?');
  expect(press('?', 'Minus')).toBe('?');
  expect(press('ArrowUp', 'ArrowUp', { ctrl: true })).toBe('Ctrl+ArrowUp');
  expect(labelOf('Ctrl+ArrowUp')).toBe('Ctrl+↑');
  expect(labelOf('Shift+v')).toBe('Shift+V');
});

test('no two commands have the same key, and every command says what it does', () => {
  const taken = new Map<string, string>();
  for (const command of commands) {
    expect(command.says.length).toBeGreaterThan(3);
    for (const chord of keysOf(command)) {
      expect(taken.get(chord) ?? command.id).toBe(command.id);
      taken.set(chord, command.id);
    }
  }
  expect(new Set(commands.map((c) => c.id)).size).toBe(commands.length);
  expect(byChord('m')?.says).toBe('Move');
  expect(clash('m', 'undo')).toContain('“Move”');
  expect(clash('7', 'undo')).toContain('amount');
  expect(clash('Tab', 'undo')).toContain('Tab');
  expect(clash('F9', 'undo')).toBeNull();
});

test('beginnings come before words, words before middles, middles before letters that merely follow', () => {
  const points = (text: string) => score({ text }, 'arm');
  const order = ['arm of moon', 'moon arm', 'alarm', 'a red mast', 'lamp'].map(points);
  for (let i = 1; i < order.length; i++) expect(order[i - 1]).toBeGreaterThan(order[i]!);
  expect(order.at(-1)).toBe(0);
  expect(score({ text: 'mercury arm' }, 'arm mercury')).toBeGreaterThan(0);
  expect(score({ text: 'switch off', also: 'hide' }, 'hide')).toBeGreaterThan(0);
  expect(best([{ text: 'b' }, { text: 'ab' }, { text: 'c' }], 'b', 1)).toEqual([{ text: 'b' }]);
});

test('a wire picture has no diagonals in flat faces, and keeps those that are bent', () => {
  const lines = (g: Parameters<typeof edgesOf>[0]) => edgesOf(g).getAttribute('position').count / 2;
  expect(lines(new BoxGeometry())).toBe(12);
  expect(lines(new PlaneGeometry(1, 1, 3, 2))).toBe(17);
  expect(lines(new SphereGeometry(1, 8, 4))).toBeGreaterThanOrEqual(8 * 3 + 8 * 4);
});

test('spheres are met by rays in order, follow their objects, and leave no trace', () => {
  const spheres = new Spheres<{ at: number; id: string }>();
  const members = ['a', 'b', 'c'].map((id) => ({ id, at: -1 }));
  members.forEach((m, i) => {
    spheres.add(m);
    spheres.place(m, new Sphere(new Vector3(), 0.5), new Matrix4().makeTranslation(0, 0, -5 * (i + 1)));
  });
  const met = () =>
    spheres.along(new Vector3(), new Vector3(0, 0, -1), { fixed: 0, perDistance: 0 }).map((f) => f.member.id);
  expect(met()).toEqual(['a', 'b', 'c']);
  spheres.place(members[0]!, new Sphere(new Vector3(), 0.5), new Matrix4().makeTranslation(0, 3, -5));
  expect(met()).toEqual(['b', 'c']);
  spheres.remove(members[1]!);
  expect(met()).toEqual(['c']);
  expect(members[2]!.at).toBe(1);
  // A stretched or sheared sphere is never taken for smaller than it is.
  spheres.place(
    members[2]!,
    new Sphere(new Vector3(), 1),
    new Matrix4().set(1, 4, 0, 0, 0, 1, 0, 4.2, 0, 0, 1, -9, 0, 0, 0, 1),
  );
  expect(met()).toEqual(['c']);
  const half = [{ x: 0, y: 1, z: 0, w: -2 }];
  expect([...spheres.within(half)].map((w) => [w.member.id, w.inside])).toEqual([
    ['a', true],
    ['c', false],
  ]);
});

test('every set of hands can orbit, pan and pick without a middle button', () => {
  const event = { altKey: false, shiftKey: false, ctrlKey: false, pointerType: 'mouse' };
  for (const set of ['mouse', 'twoButtons', 'trackpad', 'pen'] as const) {
    expect(wayOf(set, { ...event, button: 0 })).toBe('pick');
    expect(wayOf(set, { ...event, button: 2 })).toBe('orbit');
    expect(wayOf(set, { ...event, button: 2, shiftKey: true })).toBe('pan');
    expect(wayOf(set, { ...event, button: 0, altKey: true })).toBe('orbit');
    expect(wayOf(set, { ...event, button: 0, altKey: true, shiftKey: true })).toBe('pan');
  }
  expect(wayOf('mouse', { ...event, button: 1 })).toBe('pan');
  expect(wayOf('twoButtons', { ...event, button: 2, ctrlKey: true })).toBe('dolly');
  expect(wayOf('pen', { ...event, button: 0, pointerType: 'touch' })).toBe('orbit');
});

test('settings take over only what they know, and say why a file is none', () => {
  expect(readSettings('{')).toContain('not JSON');
  expect(readSettings('{"theme":"night"}')).toContain('no settings');
  expect(readSettings('{"calmPivotSettings":[]}')).toContain('damaged');
  expect(
    cleaned({
      theme: 'night',
      handleSize: 99,
      marks: { width: 3, nonsense: 1 },
      navigation: 'x',
      other: 5,
      keys: { a: 'b', c: ['d'] },
    }),
  ).toEqual({ theme: 'night', handleSize: 2.5, marks: { width: 3 }, keys: { c: ['d'] } });
  const full = settingsOf({ marks: { width: 3 } });
  expect([full.marks.width, full.marks.show, full.navigation.set]).toEqual([3, 'outline', 'mouse']);
});

test('undo takes back selections up to the last edit, and redo brings them again', () => {
  const steps = new SelectionSteps();
  steps.changed([]);
  steps.edited();
  steps.changed(['a']);
  steps.changed(['b']);
  expect(steps.step('undo', ['c'])).toEqual(['b']);
  expect(steps.step('undo', ['b'])).toEqual(['a']);
  expect(steps.step('redo', ['a'])).toEqual(['b']);
  expect(steps.step('undo', ['b'])).toEqual(['a']);
  expect(steps.step('undo', ['a'])).toBeNull();
  expect(steps.step('undo', ['a'])).toEqual([]);
});
