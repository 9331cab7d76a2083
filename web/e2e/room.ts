import { expect, type APIRequestContext, type Locator, type Page } from '@playwright/test';
import { renewed } from './living';
import { texturedFile } from './textured';

export interface Evaluated {
  id: string;
  world: number[];
  pivot: number[];
}

export interface StoredNode {
  id: string;
  name: string;
  parent: string | null;
  placement: Record<'position' | 'rotation' | 'scale' | 'pivot', number[]>;
  shape?: Record<string, unknown>;
  geometry?: string;
  material?: string;
  normals?: { how: string; angle: number };
}

/** A scene from an imported file with textures; tells its id. */
export async function texturedRoom(request: APIRequestContext): Promise<string> {
  const made = await request.post('/api/scenes/import?name=Textured', {
    headers: { 'content-type': 'model/gltf-binary' },
    data: Buffer.from(await texturedFile()),
  });
  expect(made.status(), await made.text()).toBe(201);
  return ((await made.json()) as { id: string }).id;
}

/** Numbers are those that are expected, each to half a unit of a digit; rounding both would part two that lie about a half. */
export function close(actual: number[], expected: number[], digits: number): void {
  expect(actual).toHaveLength(expected.length);
  actual.forEach((v, i) => expect(v, String(i)).toBeCloseTo(expected[i]!, digits));
}

/** A copy of the demo room for one test, opened in the page. */
export class Room {
  private constructor(
    readonly page: Page,
    readonly id: string,
  ) {}

  static async open(page: Page): Promise<Room> {
    const made = await page.request.post('/api/scenes', { data: { name: 'Test room', like: 'orrery-room' } });
    return Room.enter(page, ((await made.json()) as { id: string }).id);
  }

  static async enter(page: Page, id: string): Promise<Room> {
    if (!(await renewed(page, id))) await page.goto(`/?scene=${id}`);
    await expect(page.getByRole('tree')).toBeVisible({ timeout: 60_000 });
    return new Room(page, id);
  }

  /** What the page computes from its scene is what the server computes, to the bit. */
  async computesAsServer(shot?: string): Promise<void> {
    const path = `/api/scenes/${this.id}/derived${shot === undefined ? '' : `?shot=${shot}`}`;
    const answer = (await (await this.request.get(path)).json()) as { digest: string };
    expect(answer.digest).toMatch(/^[0-9a-f]{16}$/);
    await expect
      .poll(() =>
        this.page.evaluate(() => (window as unknown as { calmPivotCore: { digest(): string } }).calmPivotCore.digest()),
      )
      .toBe(answer.digest);
  }

  get request(): APIRequestContext {
    return this.page.request;
  }

  /** Picks a node by its id, through the tree's own way. */
  async pick(id: string, add = false): Promise<void> {
    const row = this.page.locator(`[id="row-${id}"]`);
    const path: string[] = [];
    const nodes = new Map((await this.nodes()).map((n) => [n.id, n]));
    for (let at = nodes.get(id)?.parent ?? null; at !== null; at = nodes.get(at)?.parent ?? null) path.unshift(at);
    for (const parent of path) {
      const above = this.page.locator(`[id="row-${parent}"]`);
      await this.reveal(parent);
      if ((await above.getAttribute('aria-expanded')) === 'false') await above.locator('button').first().click();
    }
    await this.reveal(id);
    await row.click(add ? { modifiers: ['Control'] } : {});
    await expect(row).toHaveAttribute('aria-selected', 'true');
  }

  /** Scrolls the tree, which holds only the rows in sight and a dozen on either side, until a row is there. */
  async reveal(id: string): Promise<void> {
    const row = this.page.locator(`[id="row-${id}"]`);
    const tree = this.page.getByRole('tree');
    // Twice: rows come a picture after the list was scrolled, or later where pictures are slow.
    for (let turn = 0; turn < 2; turn++)
      for (let top = 0; !(await row.isVisible()) && top < 12_000; top += 600)
        await tree.evaluate(
          async (e, [to, pictures]) => {
            e.scrollTop = to!;
            for (let i = 0; i < pictures!; i++) await new Promise(requestAnimationFrame);
          },
          [top, 1 + 3 * turn],
        );
  }

  /** Adds an object; where it goes is said in the sentence when something is picked, and Enter makes it. */
  async add(what: string, where?: 'inside' | 'beside' | 'around'): Promise<void> {
    const picked = (await this.picked()).length > 0;
    const { page } = this;
    await page.getByRole('button', { name: 'Add', exact: true }).click();
    await page.getByRole('menuitem', { name: what, exact: true }).click();
    const plan = page.locator('[data-plan=add]');
    if (where) {
      await plan.getByRole('button', { name: 'Where it goes' }).click();
      await page.getByRole('menuitemradio', { name: where }).click();
      await plan.getByRole('button', { name: 'Make it' }).click();
    } else if (picked || !/^(Group|Camera|.*([Ll]amp|light|Light).*|.*mark.*)$/.test(what)) {
      // With nothing picked, what has a size asks for it.
      await expect(plan).toBeVisible();
      await page.keyboard.press('Enter');
    }
    await expect(plan).toHaveCount(0);
  }

  /** Runs a command by its words, through Find anything. */
  async run(words: string): Promise<void> {
    await this.key('Control+k');
    await this.page.keyboard.type(words);
    await this.page.keyboard.press('Enter');
  }

  /** Letters as quickly as a hand types them: none waits until the page has answered the one before. */
  async letters(word: string): Promise<void> {
    await Promise.all([...word].map((letter) => this.page.keyboard.press(letter)));
  }

  async key(key: string): Promise<void> {
    await this.page.locator('[data-stage]').focus();
    await this.page.keyboard.press(key);
  }

  handle(part: string, axis = 0): Locator {
    return this.page.locator(`g[data-handle="${part}"][data-axis="${axis}"]`);
  }

  /** A point on a handle that can be pressed, on the screen, once the handles stand where the last pick and verb put them. */
  async grip(part: string, axis = 0, along = 0.5): Promise<{ x: number; y: number }> {
    await this.still();
    const hit = this.handle(part, axis).locator('path.hit, path.hit-area').first();
    return hit.evaluate((element, t) => {
      const path = element as SVGPathElement;
      const screen = path.getScreenCTM()!;
      const at = (share: number) => path.getPointAtLength(path.getTotalLength() * share).matrixTransform(screen);
      if (path.classList.contains('hit-area')) {
        // The mean of the outline's points lies inside a quarter disc and in the middle of a circle.
        const points = Array.from({ length: 40 }, (_, i) => at(i / 40));
        const mean = (pick: (p: DOMPoint) => number) => points.reduce((sum, p) => sum + pick(p), 0) / points.length;
        return { x: mean((p) => p.x), y: mean((p) => p.y) };
      }
      const point = at(t);
      return { x: point.x, y: point.y };
    }, along);
  }

  /** Drags a real handle by some pixels; what is done before the release can be looked at in between. */
  async drag(part: string, axis: number, dx: number, dy: number, before?: () => Promise<void>): Promise<void> {
    const from = await this.grip(part, axis, 0.6);
    await this.page.mouse.move(from.x, from.y);
    await this.page.mouse.down();
    for (let i = 1; i <= 4; i++) await this.page.mouse.move(from.x + (dx * i) / 4, from.y + (dy * i) / 4);
    await before?.();
    await this.page.mouse.up();
  }

  async nodes(): Promise<StoredNode[]> {
    return ((await (await this.request.get(`/api/scenes/${this.id}`)).json()) as { nodes: StoredNode[] }).nodes;
  }

  async node(id: string): Promise<StoredNode> {
    return (await this.nodes()).find((n) => n.id === id)!;
  }

  async evaluated(id: string): Promise<Evaluated> {
    const all = (await (await this.request.get(`/api/scenes/${this.id}/evaluated`)).json()) as {
      nodes: Evaluated[];
      marks: Evaluated[];
    };
    return [...all.nodes, ...all.marks].find((n) => n.id === id)!;
  }

  /** Turns to a chapter of the right-hand panel. */
  async chapter(word: 'Where' | 'What' | 'Why'): Promise<void> {
    await this.page.getByRole('tab', { name: word, exact: true }).click();
  }

  field(label: string): Locator {
    return this.page.getByLabel(label, { exact: true });
  }

  async number(label: string): Promise<number> {
    return Number(await this.field(label).inputValue());
  }

  /** Where the middle of a node stands on the screen, in the active view. */
  async at(id: string): Promise<{ x: number; y: number }> {
    await this.still();
    return this.page.evaluate((node) => {
      const stage = (window as unknown as { calmPivotStage: { placeOf(id: string): { x: number; y: number } } })
        .calmPivotStage;
      const box = document.querySelector('[data-stage]')!.getBoundingClientRect();
      const place = stage.placeOf(node);
      return { x: place.x + box.x, y: place.y + box.y };
    }, id);
  }

  /** Waits until the stage has drawn and no view glides any more. */
  async still(): Promise<void> {
    await this.page.evaluate(async () => {
      const stage = (window as unknown as { calmPivotStage: { frames: number; draw(): void } }).calmPivotStage;
      for (let quiet = 0, last = -1; quiet < 2;) {
        await new Promise((done) => setTimeout(done, 60));
        quiet = stage.frames === last ? quiet + 1 : 0;
        last = stage.frames;
      }
    });
  }

  /** How a view looks: its eye, as numbers. */
  async look(view = 0): Promise<number[]> {
    await this.still();
    return this.page.evaluate((i) => {
      interface Views {
        views: { eye: { world(): number[]; look: { distance: number } } }[];
      }
      const { eye } = (window as unknown as { calmPivotStage: Views }).calmPivotStage.views[i]!;
      return [...eye.world(), eye.look.distance];
    }, view);
  }

  /** The middle of one of the four views on the screen, moved by some pixels. */
  async viewAt(view: number, dx = 0, dy = 0): Promise<{ x: number; y: number }> {
    const box = (await this.page.locator(`[data-view="${view}"]`).boundingBox())!;
    return { x: box.x + box.width / 2 + dx, y: box.y + box.height / 2 + dy };
  }

  /** Drags the pointer over the stage with a button. */
  async sweep(
    from: { x: number; y: number },
    to: { x: number; y: number },
    button: 'left' | 'right' | 'middle' = 'left',
  ): Promise<void> {
    await this.page.mouse.move(from.x, from.y);
    await this.page.mouse.down({ button });
    for (let i = 1; i <= 3; i++)
      await this.page.mouse.move(from.x + ((to.x - from.x) * i) / 3, from.y + ((to.y - from.y) * i) / 3);
    await this.page.mouse.up({ button });
  }

  /** The ids of what is picked, the lead last, as the tree shows them. */
  async picked(): Promise<string[]> {
    return this.page.evaluate(
      () => (window as unknown as { calmPivotPage: () => { selection: string[] } }).calmPivotPage().selection,
    );
  }

  /** Waits until everything that was done has been stored. */
  async saved(): Promise<void> {
    // A line of a menu acts once the menu has closed.
    await this.page.evaluate(() => new Promise((done) => setTimeout(done, 30)));
    await expect(this.page.getByRole('banner').getByRole('status')).toHaveText(/^Saved/);
  }
}
