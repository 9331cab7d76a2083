import {
  Color,
  DirectionalLight,
  MeshBasicMaterial,
  MeshStandardMaterial,
  PerspectiveCamera,
  Vector3,
  type OrthographicCamera,
} from 'three';
import type { LampReading } from '../core/answers';
import { freeze, type Frozen, type StillOf } from './frozen';
import { castAbout, follow, luxAt, shining, type Shining } from './lamplight';
import type { Pixels } from './encoder';
import { readBack, throughLens, type Drawing } from './shotPicture';
import type { Sky } from './sky';
import { StillTargets, type Tone } from './stillTargets';
import { depthsOf, masksOf } from './beside';

export interface StillAsk {
  of: StillOf;
  /** Of the whole picture, in pixels. */
  width: number;
  height: number;
  /** Only this part of it, in pixels from its upper left corner; null: all. */
  part: { x: number; y: number; width: number; height: number } | null;
  /** How many pictures are added up; 1: quick. */
  passes: number;
  transparent: boolean;
  tone: Tone;
  depth: boolean;
  mask: boolean;
}

export interface StillMade {
  picture: Pixels;
  /** How many pictures were added up. */
  passes: number;
  /** Metres along the view, and between which; the lowest row first. */
  depth: { values: Float32Array<ArrayBuffer>; near: number; far: number } | null;
  mask: Pixels | null;
}

/** How a still that is being made is to go on. */
export interface Going {
  /** It is to end with what there is. */
  stop: boolean;
  /** It is not wanted any more. */
  gone: boolean;
  /** The graphics card was taken away, and has come back: what is on it has to be made anew. */
  lost: number;
  /** Told after each picture that was added. */
  progress: (done: number, all: number) => void;
  /** Lets everything else go first. */
  rest: () => Promise<void>;
}

/** A part of a still that fits into the memory of the graphics card. */
const mostSide = 2048;

/** So many lamps of each kind cast shadows in one drawing; pictures of what is made take the rest of the card's sixteen. */
const [points, spots, suns, plain] = [2, 3, 2, 24];

/**
 * Makes an image of a scene as it stood when it was asked for: picture by picture with the eye, the lamps and the way the surroundings shine from shifted a
 * little, added up in floating point numbers. Null: there is no camera, or it was not wanted any more.
 * <code>
 * const made = await makeStill(drawing, { of: { shot: 'dome' }, width: 1280, height: 720, passes: 64, … }, going);
 * </code>
 */
export async function makeStill(
  on: Drawing,
  ask: StillAsk,
  going: Going,
  light: ((sum: Float32Array) => void) | null = null,
): Promise<StillMade | null> {
  const frozen = freeze(on, ask.of, ask.width / ask.height, ask.passes > 1);
  if (!frozen) return null;
  const maker = new Maker(on, ask, frozen, going);
  try {
    return await maker.all(light);
  } finally {
    maker.letGo();
  }
}

/** Two points of a shadow for each of a picture's, as far as it goes. */
function shadowSize({ width, height, passes }: StillAsk): number {
  const enough = 2 ** Math.ceil(Math.log2(2 * Math.max(width, height)));
  return Math.min(passes > 1 ? 1024 : 2048, Math.max(512, enough));
}

class Maker {
  private readonly groups: LampReading[][];
  private readonly lights: Shining[][] = [];
  /** Light from all sides, one of them a pass; null: all at once. */
  private readonly aside: DirectionalLight | null;
  private readonly sky: { sky: Sky; letGo: () => void };
  private readonly shadow: number;

  constructor(
    private readonly on: Drawing,
    private readonly ask: StillAsk,
    private readonly frozen: Frozen,
    private readonly going: Going,
  ) {
    this.groups = grouped(frozen);
    this.sky = on.surround.hold(frozen.surroundings);
    this.aside = ask.passes > 1 && frozen.surroundings.strength > 0 ? new DirectionalLight() : null;
    this.shadow = shadowSize(ask);
    for (const lamps of this.groups) this.lights.push(lamps.map(shining));
  }

  async all(light: ((sum: Float32Array) => void) | null): Promise<StillMade | null> {
    const { ask, going } = this;
    const part = ask.part ?? { x: 0, y: 0, width: ask.width, height: ask.height };
    const whole = new Uint8Array(part.width * part.height * 4);
    const depth = ask.depth ? new Float32Array(part.width * part.height) : null;
    const mask = ask.mask ? new Uint8Array(part.width * part.height * 4) : null;
    const tiles = tiled(part.width, part.height);
    const all = tiles.length * ask.passes;
    let [done, fewest] = [0, ask.passes];
    for (const tile of tiles) {
      const at = { ...tile, x: part.x + tile.x, y: part.y + tile.y };
      const targets = new StillTargets(tile.width, tile.height, ask.passes > 1 ? 0 : 4);
      try {
        let passes = 0;
        let lost = going.lost;
        while (passes < ask.passes && !(going.stop && passes > 0)) {
          if (going.gone) return null;
          if (lost !== going.lost) [lost, done, passes] = [going.lost, done - passes, 0];
          this.pass(targets, at, passes);
          passes++;
          going.progress(++done, all);
          if (passes < ask.passes) await going.rest();
        }
        fewest = Math.min(fewest, passes);
        light?.(this.drawing(() => targets.light(this.on.renderer, passes)));
        const colors = await this.drawing(() => {
          targets.develop(this.on.renderer, passes, 2 ** this.frozen.surroundings.exposure, ask.tone, ask.transparent);
          return readBack(this.on.renderer, tile.width, tile.height);
        });
        place(colors.colors, whole, tile, part, 4);
        if (depth)
          place(
            this.drawing(() => depthsOf(this.on.renderer, this.frozen, this.lens(at, 0), tile)),
            depth,
            tile,
            part,
            1,
          );
        if (mask)
          place(
            this.drawing(() => masksOf(this.on.renderer, this.frozen, this.lens(at, 0), tile)),
            mask,
            tile,
            part,
            4,
          );
      } finally {
        targets.dispose();
      }
    }
    return {
      picture: { colors: whole, width: part.width, height: part.height },
      passes: fewest,
      depth: depth && { values: depth, ...between(depth) },
      mask: mask && { colors: mask, width: part.width, height: part.height },
    };
  }

  letGo(): void {
    for (const light of [...this.lights.flat(), ...(this.aside ? [this.aside] : [])]) light.dispose();
    this.sky.letGo();
    this.frozen.letGo();
  }

  /** One picture: all lamps, some after the other where they are many, and the surroundings. */
  private pass(targets: StillTargets, at: Part, pass: number): void {
    const { on, ask, frozen } = this;
    const { scene, surroundings: s } = frozen;
    const { renderer } = on;
    const { sky } = this.sky;
    const lens = this.lens(at, pass);
    const many = Math.max(1, this.groups.length);
    this.drawing(() => {
      for (let group = 0; group < many; group++) {
        const [first, lights] = [group === 0, this.lights[group] ?? []];
        const placed = lights.map((light, i) => this.placed(light, this.groups[group]![i]!, pass));
        if (this.aside && first) placed.unshift(this.fromASide(this.aside, pass));
        for (const light of placed) scene.add(light);
        scene.background = null;
        sky.light(scene, s, false);
        if (first && !ask.transparent) {
          if (s.behind) sky.light(scene, s, true);
          else scene.background = new Color(0);
        }
        if (!first) scene.environmentIntensity = 0;
        this.glow(first);
        renderer.shadowMap.needsUpdate = true;
        renderer.setRenderTarget(targets.pass);
        renderer.setClearColor(0x000000, 0);
        renderer.clear();
        renderer.render(scene, lens);
        targets.take(renderer, pass === 0 && first, !first);
        scene.remove(...placed);
      }
      scene.background = scene.environment = null;
    });
  }

  /** What glows and what is unlit counts once. */
  private glow(on: boolean): void {
    if (this.groups.length < 2) return;
    for (const object of this.frozen.objects) {
      const material = object.material;
      if (material instanceof MeshStandardMaterial)
        material.emissiveIntensity = on ? (material.userData['glow'] as number) : 0;
      else if (material instanceof MeshBasicMaterial)
        material.color.copy(on ? (material.userData['color'] as Color) : new Color(0));
    }
  }

  private placed(light: Shining, lamp: LampReading, pass: number): Shining {
    const { frozen, ask } = this;
    const many = ask.passes > 1;
    const aside = many && lamp.size > 0 ? within(lamp, pass) : null;
    follow(light, lamp, frozen.origin, aside);
    light.castShadow = false;
    if (lamp.shadow) {
      castAbout(light, frozen.sphere, this.shadow);
      // Very soft ones are grainy in a single picture.
      light.shadow.radius = many ? 1 : 1 + Math.min(1.5, lamp.size * 4);
    }
    return light;
  }

  /** Light from one side of the surroundings; all passes together are the whole. */
  private fromASide(light: DirectionalLight, pass: number): DirectionalLight {
    const { frozen } = this;
    const { way, color } = this.sky.sky.from(frozen.surroundings, halton(pass + 1, 2), [
      halton(pass + 1, 3),
      halton(pass + 1, 5),
    ]);
    light.color.copy(color);
    light.intensity = 1;
    light.position.copy(frozen.sphere.center).add(way);
    light.target.position.copy(frozen.sphere.center);
    castAbout(light, frozen.sphere, this.shadow);
    light.shadow.radius = 2;
    return light;
  }

  /** The camera of a pass: a little aside within a pixel, and within the opening of the lens. */
  private lens(at: Part, pass: number): PerspectiveCamera | OrthographicCamera {
    const { frozen, ask } = this;
    const { seen } = frozen;
    const many = ask.passes > 1;
    const lens = throughLens(seen, ask.width / ask.height, frozen.origin, frozen.sphere);
    let [x, y] = many ? [halton(pass + 1, 2) - 0.5, halton(pass + 1, 3) - 0.5] : [0, 0];
    // Beside the axis by so many picture heights.
    x += seen.lens.shiftX * ask.height;
    y -= seen.lens.shiftY * ask.height;
    if (many && seen.lens.opening > 0 && lens instanceof PerspectiveCamera) {
      const [angle, radius] = [
        2 * Math.PI * halton(pass + 1, 5),
        (seen.lens.opening / 2) * Math.sqrt(halton(pass + 1, 7)),
      ];
      const [right, up] = [Math.cos(angle) * radius, Math.sin(angle) * radius];
      const pixels = ask.height / (2 * seen.lens.focus * Math.tan((seen.lens.fov * Math.PI) / 360));
      lens.matrix.setPosition(new Vector3(right, up, 0).applyMatrix4(lens.matrix));
      lens.updateMatrixWorld(true);
      // What lies as far away as it is sharp stays where it is in the picture.
      x -= right * pixels;
      y += up * pixels;
    }
    lens.setViewOffset(ask.width, ask.height, at.x + x, at.y + y, at.width, at.height);
    lens.updateProjectionMatrix();
    return lens;
  }

  /** Draws beside the stage, which finds everything as it left it. */
  private drawing<T>(act: () => T): T {
    const { renderer } = this.on;
    const pending = renderer.shadowMap.needsUpdate;
    const color = renderer.getClearColor(new Color());
    const alpha = renderer.getClearAlpha();
    const scissor = renderer.getScissorTest();
    renderer.setScissorTest(false);
    try {
      return act();
    } finally {
      renderer.setRenderTarget(null);
      renderer.setClearColor(color, alpha);
      renderer.setScissorTest(scissor);
      renderer.shadowMap.needsUpdate = pending;
    }
  }
}

export interface Part {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Lamps that can be drawn at once; of several groups each is drawn by itself, and the light added up. */
function grouped({ lamps, origin, sphere }: Frozen): LampReading[][] {
  const groups: LampReading[][] = [];
  const room: Record<string, number>[] = [];
  const byLight = lamps.toSorted((a, b) => luxAt(b, origin, sphere) - luxAt(a, origin, sphere));
  for (const lamp of byLight) {
    const kind = !lamp.shadow
      ? 'plain'
      : lamp.type === 'point'
        ? 'points'
        : lamp.type === 'directional'
          ? 'suns'
          : 'spots';
    let at = room.findIndex((left) => left[kind]! > 0);
    if (at < 0) {
      at = room.length;
      // One of those that shine from far away is the surroundings.
      room.push({ plain, points, spots, suns: at === 0 ? suns - 1 : suns });
      groups.push([]);
    }
    room[at]![kind]!--;
    groups[at]!.push(lamp);
  }
  return groups;
}

/** A place within what shines. */
function within(lamp: LampReading, pass: number): Vector3 {
  const salt = [...lamp.id].reduce((sum, c) => (sum * 31 + c.charCodeAt(0)) % 997, 7) / 997;
  // In another order than the eye goes by, so that the two have nothing to do with each other.
  const index = 1 + ((pass * 29) % 64) + 64 * Math.floor(pass / 64);
  const [a, b, c] = [2, 3, 5].map((base) => (halton(index, base) + salt * base) % 1) as [number, number, number];
  if (lamp.type === 'panel') return new Vector3(2 * a - 1, 2 * b - 1, 0);
  if (lamp.type === 'directional') {
    const [angle, radius] = [2 * Math.PI * a, Math.sqrt(b)];
    return new Vector3(Math.cos(angle) * radius, Math.sin(angle) * radius, 0);
  }
  // Within a ball, evenly.
  const up = 2 * a - 1;
  const flat = Math.sqrt(1 - up * up);
  return new Vector3(Math.cos(2 * Math.PI * b) * flat, up, Math.sin(2 * Math.PI * b) * flat).multiplyScalar(
    Math.cbrt(c),
  );
}

/** Numbers from 0 to 1 that fill it evenly, however many are taken. Source: Halton, 1960. */
export function halton(index: number, base: number): number {
  let [result, share] = [0, 1 / base];
  for (let i = index; i > 0; i = Math.floor(i / base), share /= base) result += share * (i % base);
  return result;
}

function tiled(width: number, height: number): Part[] {
  const parts: Part[] = [];
  for (let y = 0; y < height; y += mostSide)
    for (let x = 0; x < width; x += mostSide)
      parts.push({ x, y, width: Math.min(mostSide, width - x), height: Math.min(mostSide, height - y) });
  return parts;
}

/** Puts the rows of a part into the whole; both have their lowest row first. */
function place<T extends Uint8Array | Float32Array>(
  from: T,
  into: T,
  tile: Part,
  whole: { width: number; height: number },
  size: number,
): void {
  for (let row = 0; row < tile.height; row++) {
    const to = (whole.height - tile.y - tile.height + row) * whole.width + tile.x;
    into.set(from.subarray(row * tile.width * size, (row + 1) * tile.width * size), to * size);
  }
}

function between(depths: Float32Array): { near: number; far: number } {
  let [near, far] = [Infinity, 0];
  for (const d of depths) if (d > 0) [near, far] = [Math.min(near, d), Math.max(far, d)];
  return far > 0 ? { near, far } : { near: 0, far: 0 };
}
