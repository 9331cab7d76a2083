/** Something that can be found: its words in small letters, and by what else it is looked for. */
export interface Findable {
  text: string;
  also?: string;
}

/**
 * How well a thing fits what was typed: 0 not at all; whole words and beginnings before middles, middles before letters that
 * merely follow each other, short names before long ones.
 */
export function score(thing: Findable, wanted: string): number {
  if (wanted === '') return 1;
  const own = scoreText(thing.text, wanted);
  if (thing.also === undefined) return own;
  // A word of the trade counts for more than letters of the name that merely follow each other.
  const other = scoreText(thing.also, wanted);
  return Math.max(own, other > 400 ? other / 3 : 0);
}

function scoreText(text: string, wanted: string): number {
  const at = text.indexOf(wanted);
  const size = 50 / (1 + text.length);
  if (at === 0) return 1000 + size;
  if (at > 0) return (isLetter(text.charCodeAt(at - 1)) ? 500 : 800) + size;
  if (wanted.includes(' ')) {
    const words = wanted.split(' ').filter(Boolean);
    if (words.every((word) => text.includes(word))) return 600 + size;
  }
  return wanted.length >= 2 ? follows(text, wanted) : 0;
}

/** All letters follow each other in the text; the closer together, the better. */
function follows(text: string, wanted: string): number {
  let at = -1;
  let first = -1;
  for (const letter of wanted) {
    if (letter === ' ') continue;
    at = text.indexOf(letter, at + 1);
    if (at < 0) return 0;
    if (first < 0) first = at;
  }
  const spread = at - first + 1 - wanted.length;
  return Math.max(1, 200 - spread * 10);
}

function isLetter(code: number): boolean {
  return (code >= 97 && code <= 122) || (code >= 48 && code <= 57) || code > 127;
}

/** The best of many, in order, without sorting those that do not count. */
export function best<T extends Findable>(things: Iterable<T>, wanted: string, most: number): T[] {
  const found: { thing: T; score: number; order: number }[] = [];
  let order = 0;
  for (const thing of things) {
    const points = score(thing, wanted);
    if (points > 0) found.push({ thing, score: points, order: order++ });
  }
  found.sort((a, b) => b.score - a.score || a.order - b.order);
  return found.slice(0, most).map((f) => f.thing);
}
