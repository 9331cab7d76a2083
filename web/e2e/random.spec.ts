import type { Edit } from '../src/core/answers';
import { expect, test, type BrowserContext, type Page } from '@playwright/test';
import { Room, texturedRoom } from './room';

/** Some seconds in ./test; ten minutes when asked: CALM_PIVOT_RANDOM_SECONDS=300 npx playwright test random */
const seconds = Number(process.env['CALM_PIVOT_RANDOM_SECONDS'] ?? 15);

/** What may be said to somebody who is not alone, or who tries what cannot be. */
const fitting = [
  /(was|were|has been) (changed|removed) meanwhile/,
  /removed meanwhile/,
  /^There is no step of yours/,
  /has been changed since, so this step/,
  /is locked\. Unlock it/,
  /cannot be (taken back|done again|undone|redone)/,
  /is gone|was removed|is not in this scene|no longer/,
  /is not in the scene any more\. Pick it again, or undo what removed it/,
  /has been put under .* since, which this would remove/,
];

interface Noticed {
  notice: { kind: string; text: string } | null;
}

interface Hooks {
  calmPivotCore: Record<'keepEdits' | 'keepTrial' | 'keepTrialAsCopy' | 'drop', (...given: unknown[]) => object> & {
    node(id: string): { node: { placement: object; name: string } } | null;
  };
  calmPivotPage(): {
    rows: { id: string; kind: string; locked: boolean }[];
    waiting: number;
    scene: { id: string };
    plan: unknown;
  };
  calmPivotSession: {
    select(ids: string[]): void;
    open(id: string): Promise<void>;
    restore(kind: string): Promise<void>;
    keep(...edits: Edit[]): boolean;
  };
  calmPivotStore: { subscribe(listen: (now: Noticed, before: Noticed) => void): void };
  calmPivotCommands: { id: string }[];
  calmPivotRun(command: unknown, stage: unknown): void;
  calmPivotStage: unknown;
  counted: { kept: number; dropped: number; refusals: string[] };
}

/** Mulberry32: a few lines that give the same numbers for the same seed. */
function randomOf(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Somebody with a window, doing this and that. */
class Somebody {
  readonly complaints: string[] = [];
  readonly done = new Map<string, number>();

  private constructor(
    readonly page: Page,
    readonly room: Room,
    private readonly elsewhere: string,
    private readonly random: () => number,
  ) {
    page.on(
      'console',
      (m) => m.type() === 'error' && !m.text().includes('status of 4') && this.complaints.push(m.text()),
    );
    page.on('pageerror', (e) => this.complaints.push(String(e.stack)));
  }

  static async enter(context: BrowserContext, scene: string, elsewhere: string, seed: number): Promise<Somebody> {
    const page = await context.newPage();
    const room = await Room.enter(page, scene);
    await page.setViewportSize({ width: 700, height: 420 });
    // What the page keeps and takes back is counted where it happens.
    await page.evaluate(() => {
      const w = window as unknown as Hooks;
      w.counted = { kept: 0, dropped: 0, refusals: [] };
      for (const call of ['keepEdits', 'keepTrial', 'keepTrialAsCopy'] as const) {
        const own = w.calmPivotCore[call].bind(w.calmPivotCore);
        w.calmPivotCore[call] = (...given) => {
          const answer = own(...given);
          if (!('refusal' in answer)) w.counted.kept++;
          return answer;
        };
      }
      const drop = w.calmPivotCore.drop.bind(w.calmPivotCore);
      w.calmPivotCore.drop = (...given) => {
        w.counted.dropped++;
        return drop(...given);
      };
      w.calmPivotStore.subscribe((now, before) => {
        if (now.notice !== before.notice && now.notice?.kind === 'refusal') w.counted.refusals.push(now.notice.text);
      });
    });
    return new Somebody(page, room, elsewhere, randomOf(seed));
  }

  private chance(share: number): boolean {
    return this.random() < share;
  }

  private run(command: string): Promise<void> {
    return this.page.evaluate((id) => {
      const w = window as unknown as Hooks;
      w.calmPivotRun(
        w.calmPivotCommands.find((c) => c.id === id),
        w.calmPivotStage,
      );
    }, command);
  }

  private async pick(): Promise<void> {
    const [r, several] = [this.random(), this.chance(0.3)];
    await this.page.evaluate(
      ([share, two]) => {
        const w = window as unknown as Hooks;
        const rows = w.calmPivotPage().rows.filter((row) => !row.locked);
        const at = Math.floor((share as number) * rows.length);
        w.calmPivotSession.select(
          [rows[at], two ? rows[(at * 7 + 3) % rows.length] : undefined]
            .filter((n) => n !== undefined)
            .map((n) => n!.id),
        );
      },
      [r, several] as const,
    );
  }

  private async drag(): Promise<void> {
    const { page } = this;
    await this.run(['verb.move', 'verb.rotate', 'verb.scale', 'verb.pivot'][Math.floor(this.random() * 4)]!);
    const grips = await page.locator('g[data-handle] path.hit').evaluateAll((paths) =>
      paths.map((path) => {
        const p = path as SVGPathElement;
        const point = p.getPointAtLength(p.getTotalLength() * 0.6).matrixTransform(p.getScreenCTM()!);
        return { x: point.x, y: point.y };
      }),
    );
    const at = grips[Math.floor(this.random() * grips.length)];
    if (!at) return;
    await page.mouse.move(at.x, at.y);
    await page.mouse.down();
    for (let i = 1; i <= 4; i++)
      await page.mouse.move(at.x + (this.random() - 0.4) * 60, at.y + (this.random() - 0.5) * 40);
    if (this.chance(0.15)) await this.page.keyboard.press('Escape');
    await page.mouse.up();
  }

  private async type(): Promise<void> {
    const { page } = this;
    const amount = ['0.2', '-0.1', '15', '1.1', '0.05 + 0.05'][Math.floor(this.random() * 5)]!;
    // There is none while nothing is picked, as when the other has just removed it.
    const typed = page.locator('[data-amount]').fill(amount, { timeout: 1000 });
    if (
      !(await typed.then(
        () => true,
        () => false,
      ))
    )
      return;
    await page.keyboard.press(this.chance(0.8) ? 'Enter' : 'Escape');
  }

  private async add(): Promise<void> {
    const what = ['box', 'ball', 'cylinder', 'ring', 'plane', 'group', 'lamp.spot', 'camera'];
    await this.run(`add.${what[Math.floor(this.random() * what.length)]!}`);
    if (await this.page.evaluate(() => (window as unknown as Hooks).calmPivotPage().plan !== null))
      await this.room.key('Enter');
  }

  /** Lamps and cameras are changed, whichever there are. */
  private async relight(): Promise<void> {
    const [share, value] = [this.random(), 1 + this.random() * 60];
    await this.page.evaluate(
      ([at, v]) => {
        const w = window as unknown as Hooks;
        const of = (kind: string) => w.calmPivotPage().rows.filter((row) => row.kind === kind && !row.locked);
        const one = (kind: string) => of(kind)[Math.floor(at! * of(kind).length)]?.id;
        const [lamp, camera] = [one('light'), one('camera')];
        if (lamp && at! < 0.6) w.calmPivotSession.keep({ do: 'setLight', nodes: [lamp], intensity: v!, outerCone: v! });
        else if (camera) w.calmPivotSession.keep({ do: 'setCamera', nodes: [camera], fov: v! });
      },
      [share, value],
    );
  }

  private async away(): Promise<void> {
    const open = (id: string) =>
      this.page.evaluate((scene) => (window as unknown as Hooks).calmPivotSession.open(scene), id);
    await open(this.elsewhere);
    await this.pick();
    await open(this.room.id);
  }

  async act(): Promise<void> {
    const acts: [string, number, () => Promise<void>][] = [
      ['pick', 4, () => this.pick()],
      ['drag', 6, () => this.drag()],
      ['type', 3, () => this.type()],
      ['add', 2, () => this.add()],
      ['undo', 2, () => this.run('undo')],
      ['redo', 1, () => this.run('redo')],
      ['group', 0.5, () => this.run('group').then(() => this.room.key('Enter'))],
      ['copies', 0.5, () => this.run('copies').then(() => this.room.key('Enter'))],
      ['remove', 0.5, () => this.run('remove').then(() => this.room.key('Enter'))],
      ['off', 0.5, () => this.run('off')],
      ['relight', 1, () => this.relight()],
      ['away', 0.5, () => this.away()],
    ];
    let at = this.random() * acts.reduce((sum, [, weight]) => sum + weight, 0);
    const [name, , act] = acts.find(([, weight]) => (at -= weight) < 0)!;
    this.done.set(name, (this.done.get(name) ?? 0) + 1);
    await act();
  }

  counted(): Promise<Hooks['counted']> {
    return this.page.evaluate(() => (window as unknown as Hooks).counted);
  }
}

for (const kind of ['demo', 'textured'] as const) {
  test(
    `two people at work on the ${kind} room lose nothing and end in one scene`,
    { tag: '@alone' },
    async ({ page, browser, baseURL }) => {
      test.setTimeout(120_000 + seconds * 3_000);
      const made = await page.request.post('/api/scenes', { data: { name: 'Random', like: 'orrery-room' } });
      const demo = ((await made.json()) as { id: string }).id;
      const textured = await texturedRoom(page.request);
      const [scene, elsewhere] = kind === 'demo' ? [demo, textured] : [textured, demo];
      const contexts = await Promise.all(
        [0, 1].map(() => browser.newContext({ baseURL: baseURL!, deviceScaleFactor: 0.25 })),
      );
      const both = await Promise.all(
        contexts.map((context, i) => Somebody.enter(context, scene, elsewhere, 4711 * (i + 1))),
      );
      const end = Date.now() + seconds * 1000;
      await Promise.all(
        both.map(async (one) => {
          while (Date.now() < end) await one.act();
        }),
      );
      for (const one of both) {
        await one.room.saved();
        expect(one.complaints).toEqual([]);
        const { refusals } = await one.counted();
        expect(refusals.filter((text) => !fitting.some((f) => f.test(text)))).toEqual([]);
      }

      // Both pages show what is stored, number by number.
      const stored = (await (await page.request.get(`/api/scenes/${scene}`)).json()) as {
        revision: number;
        nodes: { id: string; name: string; placement: object }[];
      };
      for (const one of both) {
        await expect
          .poll(() =>
            one.page.evaluate(() =>
              (window as unknown as { calmPivotCore: { revision(): number } }).calmPivotCore.revision(),
            ),
          )
          .toBe(stored.revision);
        const differing = () =>
          one.page.evaluate((nodes) => {
            const { calmPivotCore, calmPivotPage } = window as unknown as Hooks;
            const here = calmPivotPage().rows.length;
            const other = nodes.filter(({ id, name, placement }) => {
              const mine = calmPivotCore.node(id)?.node;
              return mine?.name !== name || JSON.stringify(mine.placement) !== JSON.stringify(placement);
            });
            return here === nodes.length ? other.map((n) => n.id) : [`${here} instead of ${nodes.length}`];
          }, stored.nodes);
        // What the other one tried last is shown here until its end is told.
        await expect.poll(differing).toEqual([]);
        await one.room.computesAsServer();
      }

      // Every step that a page kept and did not take back is in the history, and no other.
      const steps = (await (await page.request.get(`/api/scenes/${scene}/steps`)).json()) as { by: string }[];
      const counts = await Promise.all(both.map((one) => one.counted()));
      expect(steps.length).toBe(counts.reduce((sum, c) => sum + c.kept - c.dropped, 0));
      console.log(
        kind,
        both.map((one) => Object.fromEntries(one.done)),
        steps.length,
        'steps',
      );
      for (const context of contexts) await context.close();
    },
  );
}
