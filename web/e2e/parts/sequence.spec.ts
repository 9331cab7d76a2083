import { expect, test } from '@playwright/test';
import { frameAt } from '../../src/acts/playing';
import { after, boxOf, edits, inBox, type State } from '../../src/panels/seenTable/sweep';
import { firstOf, framesOf, shotAt } from '../../src/state/sequence';

/** Repeatable numbers from 0 to 1. */
function* numbers(seed: number): Generator<number, never> {
  for (let n = seed; ;) {
    n = (n * 1_103_515_245 + 12_345) % 2_147_483_648;
    yield n / 2_147_483_648;
  }
}

test('every frame lies in one shot, and shots follow each other without a gap', () => {
  const random = numbers(7);
  const wrong: unknown[] = [];
  for (let round = 0; round < 200; round++) {
    const shots = Array.from({ length: 1 + Math.floor(random.next().value * 8) }, () => ({
      frames: 1 + Math.floor(random.next().value * 30),
    }));
    const total = framesOf(shots);
    let [index, within] = [0, 0];
    for (let frame = 0; frame < total; frame++) {
      const at = shotAt(shots, frame);
      if (at.index !== index || at.within !== within || firstOf(shots, index) + within !== frame)
        wrong.push({ frame, at });
      if (++within === shots[index]!.frames) [index, within] = [index + 1, 0];
    }
    expect(shotAt(shots, total + 5)).toEqual({ index: shots.length - 1, within: shots.at(-1)!.frames - 1 });
    expect(shotAt(shots, -3)).toEqual({ index: 0, within: 0 });
  }
  expect(wrong).toEqual([]);
  expect(shotAt([], 3).index).toBe(-1);
});

test('frames are counted from when it began: nothing adds up, however seldom it is looked at', () => {
  const random = numbers(3);
  const wrong: unknown[] = [];
  for (const fps of [23.976, 24, 25, 30, 60]) {
    for (let i = 0; i < 200; i++) {
      const [from, ms, total] = [Math.floor(random.next().value * 100), random.next().value * 60_000, 240];
      const exact = from + (ms * fps) / 1000;
      const once = frameAt(from, ms, fps, total, false);
      const round = frameAt(from, ms, fps, total, true);
      const fits =
        once.ended === exact >= total &&
        (once.ended ? once.frame === total - 1 : exact - once.frame < 1 && once.frame <= exact + 1e-9) &&
        !round.ended &&
        round.frame === Math.floor(exact + 1e-9) % total;
      if (!fits) wrong.push({ fps, from, ms, once, round });
    }
  }
  expect(wrong).toEqual([]);
});

test('a sweep brings all cells of its box to one state in one edit, and nothing where they are in it', () => {
  const table = {
    columns: ['one', 'two', 'three'].map((shot) => ({ shot, number: '', title: shot })),
    rows: ['.+-', '..-', '---'].map((cells, i) => ({
      id: `r${i}`,
      name: '',
      isCollection: false,
      depth: 0,
      final: true,
      cells,
    })),
  };
  const box = boxOf({ row: 1, column: 2 }, { row: 0, column: 1 });
  expect(box).toEqual({ top: 0, bottom: 1, left: 1, right: 2 });
  expect(inBox(box)).toBe(4);
  expect(edits(table, box, '-')).toEqual({ do: 'seeIn', shots: ['two', 'three'], of: ['r0', 'r1'], on: false });
  expect(edits(table, box, '.')).toEqual({ do: 'seeIn', shots: ['two', 'three'], of: ['r0', 'r1'] });
  expect(edits(table, boxOf({ row: 2, column: 0 }, { row: 2, column: 2 }), '-')).toBeNull();
  let state: State = '.';
  const steps = [0, 1, 2].map(() => (state = after(state)));
  expect(steps).toEqual(['-', '+', '.']);
});
