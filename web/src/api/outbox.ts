import type { Edit } from '../core/answers';
import { api, OutOfReach, Refused, type StepAnswer, type Within } from './client';

/** A step that was made here and that the server has not answered yet. */
export interface Unsent {
  key: string;
  call: 'edits' | 'undo' | 'redo';
  edits?: Edit[];
  /** The shot that they were computed on, and whether they were made in it alone. */
  within?: Within;
  to?: number;
  /** What it does, for saying what became of it. */
  sentence: string;
}

interface Kept extends Unsent {
  scene: string;
}

/** How often a step is tried that the server fails on while it is well otherwise. */
export const mostTries = 4;

const prefix = 'unsent';

/**
 * Keeps steps until the server has answered them, across reloads and changes of scene, in the browser's storage: one entry a
 * step, in the order of making, under the page that made it. What a page leaves behind is delivered by the next one; each
 * step goes by its own key, so that one which had arrived after all is not made twice.
 *
 *     outbox.add('orrery-room', step); // it is made here
 *     outbox.remove(step.key);         // the server has answered
 *     await outbox.deliver('orrery-room', say); // what was left behind, before the scene is opened
 */
export class Outbox {
  /** Steps that the storage did not take; they last as long as the page. */
  private readonly memory = new Map<string, string>();
  private readonly entries = new Map<string, string>();
  private readonly delivering = new Map<string, Promise<void>>();
  /** Scenes whose steps an open sync sends itself. */
  private readonly inHand = new Set<string>();
  private next = 0;

  constructor(
    private readonly storage: Storage | null = browserStorage(),
    private readonly page: string = crypto.randomUUID(),
    private readonly locks: LockManager | undefined = globalThis.navigator?.locks,
  ) {
    // Held for as long as the page lives: by it the others know that its steps are in good hands.
    void locks?.request(this.lockOf(page), () => new Promise(() => undefined));
  }

  /** True where leaving would lose something. */
  get wouldLose(): boolean {
    return [...this.memory.keys()].some((entry) => this.holdsStep(entry));
  }

  add(scene: string, step: Unsent, revision: number): void {
    const entry = `${prefix}/${this.page}/${String(this.next++).padStart(9, '0')}`;
    this.entries.set(step.key, entry);
    this.write(entry, JSON.stringify({ scene, ...step } satisfies Kept));
    this.know(scene, revision);
  }

  /** Notes the revision that the page has seen of a scene, where it keeps steps of it. */
  know(scene: string, revision: number): void {
    if (this.entries.size > 0) this.write(this.baseOf(this.page, scene), String(revision));
  }

  remove(key: string): void {
    const entry = this.entries.get(key);
    if (entry === undefined) return;
    this.entries.delete(key);
    this.erase(entry);
    if (this.entries.size === 0) this.eraseAll(`${prefix}-base/${this.page}/`);
  }

  /** An open sync sends the steps of this scene. */
  takeInHand(scene: string): void {
    this.inHand.add(scene);
  }

  letGo(scene: string): void {
    this.inHand.delete(scene);
  }

  /** The scenes of which steps have been left behind. */
  async scenes(): Promise<string[]> {
    const orphans = await this.orphans();
    return [...new Set(orphans.map(({ step }) => step.scene))];
  }

  /**
   * Delivers what was left behind of a scene, in order.
   * @param say Hears what could not be made, and why.
   * @throws OutOfReach: what is left stays kept.
   */
  deliver(scene: string, say: (text: string) => void): Promise<void> {
    const running = this.delivering.get(scene);
    if (running) return running;
    const work = this.send(scene, say).finally(() => this.delivering.delete(scene));
    this.delivering.set(scene, work);
    return work;
  }

  private async send(scene: string, say: (text: string) => void): Promise<void> {
    const pages = new Map<string, number>();
    for (const { entry, page, step } of await this.orphans()) {
      if (step.scene !== scene) continue;
      const base = pages.get(page) ?? Number(this.read(this.baseOf(page, scene)) ?? 0);
      pages.set(page, base);
      try {
        pages.set(page, (await this.call(step, base)).revision);
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        say(`“${step.sentence}” was made before and could only be sent now: ${error.detail}`);
      }
      this.erase(entry);
      this.entries.delete(step.key);
    }
    for (const page of pages.keys()) this.erase(this.baseOf(page, scene));
  }

  private async call(step: Kept, base: number): Promise<StepAnswer | { revision: number }> {
    for (let tries = 1; ; tries++) {
      try {
        return await sendStep(step.scene, step, base, null);
      } catch (error) {
        if (!(error instanceof OutOfReach) || !error.answered || (await api.wellness()) !== 'ok') throw error;
        if (tries === mostTries) throw new Refused('failed', 'the server failed on it again and again.', 500);
      }
    }
  }

  /** What no living page has in hand, in the order of making. */
  private async orphans(): Promise<{ entry: string; page: string; step: Kept }[]> {
    const held = new Set((await this.locks?.query())?.held?.map((lock) => lock.name));
    const all: { entry: string; page: string; step: Kept }[] = [];
    for (const entry of this.keys().filter((key) => this.holdsStep(key))) {
      const page = entry.split('/')[1]!;
      if (page !== this.page && held.has(this.lockOf(page))) continue;
      try {
        const step = JSON.parse(this.read(entry)!) as Kept;
        if (page !== this.page || !this.inHand.has(step.scene)) all.push({ entry, page, step });
      } catch {
        this.erase(entry);
      }
    }
    return all;
  }

  private holdsStep(entry: string): boolean {
    return entry.startsWith(`${prefix}/`);
  }

  private lockOf(page: string): string {
    return `calm-pivot page ${page}`;
  }

  private baseOf(page: string, scene: string): string {
    return `${prefix}-base/${page}/${scene}`;
  }

  private write(entry: string, text: string): void {
    try {
      this.storage!.setItem(entry, text);
    } catch {
      this.memory.set(entry, text);
    }
  }

  private read(entry: string): string | null {
    return this.memory.get(entry) ?? this.storage?.getItem(entry) ?? null;
  }

  private erase(entry: string): void {
    this.memory.delete(entry);
    this.storage?.removeItem(entry);
  }

  private eraseAll(beginning: string): void {
    for (const key of this.keys()) if (key.startsWith(beginning)) this.erase(key);
  }

  private keys(): string[] {
    const stored = this.storage ? Array.from({ length: this.storage.length }, (_, i) => this.storage!.key(i)!) : [];
    return [...stored, ...this.memory.keys()].sort();
  }
}

/** Makes the call of a step; the short answer to edits, the full one to undo and redo. */
export async function sendStep(
  scene: string,
  step: Pick<Unsent, 'key' | 'call' | 'edits' | 'within' | 'to'>,
  base: number,
  page: string | null,
) {
  return step.call === 'edits'
    ? api.editBriefly(scene, base, step.key, step.edits ?? [], step.within ?? {}, page)
    : api[step.call](scene, base, step.key, step.to, page);
}

/** A browser may forbid its storage. */
function browserStorage(): Storage | null {
  try {
    return globalThis.localStorage ?? null;
  } catch {
    return null;
  }
}
