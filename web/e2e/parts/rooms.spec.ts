import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, normalize, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, test } from '@playwright/test';

/**
 * The rooms of the page, each above those that it may use. What the page holds (state) knows nothing of what it does (acts);
 * the stage is moved by hands above it, and reaches up to none of them.
 */
const order = [
  'wire',
  'core',
  'api',
  'state',
  'acts',
  'controls',
  'stage',
  'commands',
  'keys',
  'sentence',
  'panels',
  'app',
];

const root = join(dirname(fileURLToPath(import.meta.url)), '../../src');

function files(below = root): string[] {
  return readdirSync(below, { withFileTypes: true }).flatMap((entry) => {
    const path = join(below, entry.name);
    return entry.isDirectory() ? files(path) : /\.tsx?$/.test(entry.name) ? [relative(root, path)] : [];
  });
}

const all = files();

function importsOf(file: string): string[] {
  const text = readFileSync(join(root, file), 'utf8');
  return [...text.matchAll(/(?:from|import)\s*\(?\s*'(\.[^']*)'/g)].flatMap(([, path]) => {
    const to = normalize(join(dirname(file), path!));
    const found = ['.ts', '.tsx', '/index.ts'].map((end) => to + end).find((name) => all.includes(name));
    return found ? [found] : [];
  });
}

const imports = new Map(all.map((file) => [file, importsOf(file)]));
const roomOf = (file: string) => (file.includes('/') ? file.split('/')[0]! : 'app');

test('every file is in a room, and no room uses one above it', () => {
  expect(new Set(all.map(roomOf))).toEqual(new Set(order));
  const up = [...imports].flatMap(([file, to]) =>
    to
      .filter((other) => order.indexOf(roomOf(other)) > order.indexOf(roomOf(file)))
      .map((other) => `${file} uses ${other}`),
  );
  expect(up).toEqual([]);
  expect([...imports.values()].flat().length).toBeGreaterThan(500);
});

test('no files use each other in a circle', () => {
  const done = new Set<string>();
  const walk = (file: string, way: string[]): string[] | null => {
    if (way.includes(file)) return [...way.slice(way.indexOf(file)), file];
    if (done.has(file)) return null;
    for (const to of imports.get(file)!) {
      const circle = walk(to, [...way, file]);
      if (circle) return circle;
    }
    done.add(file);
    return null;
  };
  for (const file of all) expect(walk(file, [])).toBe(null);
});

test('no two files or folders have one name, but for a folder and the file that it is about', () => {
  const places = new Map<string, Set<string>>();
  for (const file of all) {
    const parts = file.replace(/\.tsx?$/, '').split('/');
    parts.forEach((part, i) => {
      const place = parts.slice(0, i + 1).join('/');
      const own = i > 0 && parts[i - 1]!.toLowerCase() === part.toLowerCase();
      if (part === 'index' || own) return;
      const name = part.toLowerCase();
      places.set(name, (places.get(name) ?? new Set()).add(place));
    });
  }
  expect([...places].filter(([, at]) => at.size > 1).map(([name, at]) => `${name}: ${[...at].join(', ')}`)).toEqual([]);
});
