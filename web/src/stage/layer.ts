import { Vector3 } from 'three';

export const svg = 'http://www.w3.org/2000/svg';

/** A point of a picture, in pixels. */
export interface Pixel {
  x: number;
  y: number;
}

/**
 * Vector shapes over a view, each by its name. Every drawing names the shapes that it wants; those it did not name are gone at
 * its end. What stands as it stood is not written anew.
 */
export class Layer {
  private readonly parts = new Map<string, SVGGElement>();
  private readonly shown = new Set<string>();

  constructor(readonly root: SVGElement) {}

  begin(): void {
    this.shown.clear();
  }

  end(): void {
    for (const [name, part] of this.parts) {
      if (this.shown.has(name)) continue;
      part.remove();
      this.parts.delete(name);
    }
  }

  /** A shape that is only looked at. */
  plain(name: string, className: string, into: SVGElement = this.root): SVGGElement {
    this.shown.add(name);
    let g = this.parts.get(name);
    if (!g) {
      g = document.createElementNS(svg, 'g');
      g.setAttribute('aria-hidden', 'true');
      this.parts.set(name, g);
      into.append(g);
    }
    if (g.getAttribute('class') !== className) g.setAttribute('class', className);
    return g;
  }

  /** A shape that can be pressed. */
  button(name: string, className: string, label: string, into: SVGElement = this.root): SVGGElement {
    const g = this.plain(name, className, into);
    if (!g.hasAttribute('role')) {
      g.removeAttribute('aria-hidden');
      g.setAttribute('role', 'button');
      g.setAttribute('tabindex', this.parts.size === 1 ? '0' : '-1');
    }
    if (g.getAttribute('aria-label') !== label) g.setAttribute('aria-label', label);
    return g;
  }

  /** Words on a plate as wide as they are, kept within a width. */
  label(g: SVGGElement, text: string, at: Pixel, width: number): void {
    const [rect] = children(g, 'rect', 1);
    const [words] = children(g, 'text', 1) as SVGTextElement[];
    if (words!.textContent !== text) {
      words!.textContent = text;
      g.dataset['width'] = String(widthOf(text, g.getAttribute('class') === 'reading') + 18);
    }
    const wide = Number(g.dataset['width']);
    const left = Math.max(4, Math.min(at.x, width - wide - 8));
    attributes(rect!, { x: left, y: at.y, width: wide, height: 22, rx: 7 });
    attributes(words!, { x: left + 9, y: at.y + 11.5 });
  }
}

export function arc(a: Vector3, b: Vector3, from: number, to: number, parts: number): Vector3[] {
  return Array.from({ length: parts + 1 }, (_, k) => {
    const t = ((from + ((to - from) * k) / parts) * Math.PI) / 180;
    return a.clone().multiplyScalar(Math.cos(t)).addScaledVector(b, Math.sin(t));
  });
}

export function area(points: { x: number; y: number }[]): number {
  let sum = 0;
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length]!;
    sum += p.x * q.y - q.x * p.y;
  });
  return Math.abs(sum) / 2;
}

export function path(g: SVGGElement, className: string, d: string): void {
  let p = [...g.children].find((c) => c.getAttribute('class') === className);
  if (!p) {
    p = document.createElementNS(svg, 'path');
    p.setAttribute('class', className);
    g.append(p);
  }
  if (p.getAttribute('d') !== d) p.setAttribute('d', d);
}

export function tag(g: SVGGElement, x: number, y: number, letter: string): void {
  let t = g.querySelector<SVGGElement>('.tag');
  if (!t) {
    t = document.createElementNS(svg, 'g');
    t.setAttribute('class', 'tag');
    const hit = document.createElementNS(svg, 'circle');
    const text = document.createElementNS(svg, 'text');
    text.textContent = letter;
    t.append(hit, text);
    const area = document.createElementNS(svg, 'circle');
    area.setAttribute('class', 'hit-area');
    g.append(t, area);
  }
  if (t.children[1]!.textContent !== letter) t.children[1]!.textContent = letter;
  attributes(t.children[0] as SVGElement, { cx: x, cy: y, r: 9 });
  attributes(t.children[1] as SVGElement, { x, y: y + 0.5 });
  const over = g.querySelector(':scope > .hit-area')!;
  attributes(over, { cx: x, cy: y, r: 13 });
  toEnd(g, over, t);
}

let ruler: CanvasRenderingContext2D | undefined;

/** How wide words are, asked without laying the page out. */
export function widthOf(text: string, numbers: boolean): number {
  ruler ??= document.createElement('canvas').getContext('2d')!;
  ruler.font = numbers ? "700 12px 'Commit Mono'" : "600 12px 'Instrument Sans Variable'";
  return ruler.measureText(text).width;
}

/** Brings what is drawn last to the end, and touches nothing where it stands there already. */
export function toEnd(g: SVGElement, last: Element, before?: Element): void {
  if (g.lastElementChild === last && (!before || last.previousElementSibling === before)) return;
  if (before) g.append(before);
  g.append(last);
}

export function children(g: SVGGElement, name: string, count: number): SVGElement[] {
  const present = [...g.children].filter((c) => c.tagName === name) as SVGElement[];
  while (present.length < count) {
    const child = document.createElementNS(svg, name);
    g.append(child);
    present.push(child);
  }
  for (const extra of present.splice(count)) extra.remove();
  return present;
}

export function attributes(element: Element, values: Record<string, string | number>): void {
  for (const name in values) {
    const value = String(values[name]);
    if (element.getAttribute(name) !== value) element.setAttribute(name, value);
  }
}

/** Two directions across an axis, for drawing its arc; square to it also where the three axes are not square to each other. */
export function arcFrame(axes: Vector3[], i: number): { a: Vector3; b: Vector3 } {
  const axis = axes[i]!;
  const a = axes[(i + 1) % 3]!.clone().addScaledVector(axis, -axis.dot(axes[(i + 1) % 3]!));
  if (a.length() < 0.05)
    a.copy(axes[(i + 2) % 3]!)
      .addScaledVector(axis, -axis.dot(axes[(i + 2) % 3]!))
      .negate();
  a.normalize();
  return { a, b: axis.clone().cross(a) };
}
