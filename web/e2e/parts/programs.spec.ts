import { expect, test } from '@playwright/test';
import type { WebGLProgram, WebGLRenderer } from 'three';
import { KeptPrograms } from '../../src/stage/keptPrograms';

/** What three.js counts of a program; it lets go of it when the count comes to zero. */
const program = () => ({ usedTimes: 1 }) as WebGLProgram;

const rendererOf = (programs: WebGLProgram[] | null) => ({ info: { programs } }) as unknown as WebGLRenderer;

test('a program that was kept outlives the last material drawn by it, and is counted once', () => {
  const [kept, programs] = [new KeptPrograms(), [program(), program()]];
  for (let picture = 0; picture < 5; picture++) kept.keep(rendererOf(programs));
  expect(programs.map((p) => p.usedTimes)).toEqual([2, 2]);
  programs.push(program());
  for (let picture = 0; picture < 5; picture++) kept.keep(rendererOf(programs));
  expect(programs.map((p) => p.usedTimes)).toEqual([2, 2, 2]);
  // Their materials go.
  for (const p of programs) p.usedTimes--;
  expect(programs.every((p) => p.usedTimes > 0)).toBe(true);
});

test('one that takes the place of another is kept as well, and without any there is nothing to do', () => {
  const kept = new KeptPrograms();
  kept.keep(rendererOf(null));
  const [first, second] = [program(), program()];
  kept.keep(rendererOf([first]));
  kept.keep(rendererOf([second]));
  expect([first.usedTimes, second.usedTimes]).toEqual([2, 2]);
});
