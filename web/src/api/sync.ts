import { HubConnectionBuilder, HubConnectionState, LogLevel, type HubConnection } from '@microsoft/signalr';
import type { Core } from '../core/core';
import type { Heard, Kept, ServerStep } from '../core/answers';
import {
  api,
  OutOfReach,
  Refused,
  type LogEntry,
  type Progress,
  type StepAnswer,
  type Wellness,
  type Within,
} from './client';
import { mostTries, sendStep, type Outbox, type Unsent } from './outbox';

/** What the sync tells the page. */
export interface SyncEvents {
  heard(heard: Heard): void;
  refused(detail: string): void;
  /** A step that the server fails on again and again, while it is well otherwise. */
  setAside(step: Unsent): void;
  /** @param wellness How the server is, where it is not well. */
  state(state: { online: boolean; waiting: number; step?: number; wellness: Wellness }): void;
  described(name: string, unit: string): void;
  reload(): void;
  /** The scene was removed, here or elsewhere. */
  gone(): void;
  /** The core is about to take in what somebody did. */
  hearing(): void;
  /** What another page tries at a revision, as it wrote it; nothing: it has ended. */
  trying(page: string, revision: number, edits: string | null): void;
  /** What another page on the scene has picked; nothing once it has left. */
  picked(page: string, nodes: string[]): void;
  /** Other stills of the scene are kept now. */
  stills(): void;
  /** How far something long is that was asked for from here. */
  progress(progress: Progress): void;
}

interface Job extends Unsent {
  /** Of an edit that stands in the page already. */
  ticket: number | null;
  done(answer: StepAnswer | null): void;
}

/** What the server tells of a revision: a step, or the scene's new name and unit. */
interface News
  extends Omit<ServerStep, 'ticket' | 'entities' | 'gone'>, Partial<Pick<ServerStep, 'entities' | 'gone'>> {
  /** Of the own edit that it answers, where that is known already. */
  ticket?: number | null;
  key?: string | null;
  digest?: string | null;
  step?: { number: number };
  described?: { name: string; unit: string };
}

/** How a call says where edits were made. */
function withinOf({ shot, narrow }: Kept): Within {
  return shot === null ? {} : { shot, scope: narrow ? 'shot' : 'every' };
}

/**
 * Sends the page's steps to the server in order, one at a time, each with the revision that the one before led to, and
 * takes in every step that anybody makes. While the server is out of reach the steps wait here and are sent when it is
 * back; the outbox keeps them meanwhile, should the page be left.
 */
export class Sync {
  private readonly jobs: Job[] = [];
  private readonly early = new Map<number, News>();
  private hub: HubConnection | null = null;
  private sent: Job | undefined;
  private running: Promise<void> | null = null;
  private online = true;
  private wellness: Wellness = null;
  private closed = false;
  private step: number | undefined;
  private gap: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly core: Core,
    readonly scene: string,
    private readonly outbox: Outbox,
    private readonly events: SyncEvents,
    /** How long is waited before a call is tried again, in milliseconds. */
    private readonly pause = 1500,
  ) {
    outbox.takeInHand(scene);
  }

  async connect(): Promise<void> {
    const hub = new HubConnectionBuilder()
      .withUrl('/hub')
      .withAutomaticReconnect({ nextRetryDelayInMilliseconds: () => this.pause })
      .configureLogging(LogLevel.None)
      .build();
    this.hub = hub;
    hub.on('stepped', (step: StepAnswer) => this.hear(step));
    hub.on('described', ({ revision, name, unit }: { revision: number; name: string; unit: string }) =>
      this.hear({ revision, changed: [], removed: [], described: { name, unit } }),
    );
    hub.on('entered', (entry: LogEntry) => this.enter(entry));
    hub.on('passed', (revision: number) =>
      this.whenIdle(() => {
        if (this.core.revision() < revision) void this.catchUp();
      }),
    );
    hub.on('gone', () => this.events.gone());
    hub.on('picked', (p: { page: string; nodes: string[] }) => {
      this.accompanied = true;
      this.events.picked(p.page, p.nodes);
    });
    hub.on('trying', (t: { page: string; revision: number; edits: string | null }) =>
      this.events.trying(t.page, t.revision, t.edits),
    );
    hub.on('stills', () => this.events.stills());
    hub.on('progress', (progress: Progress) => this.events.progress(progress));
    hub.on('joined', () => {
      this.accompanied = true;
      this.tellPicked(this.picked);
    });
    hub.onreconnecting(() => this.report(false));
    hub.onreconnected(() => {
      this.report(true);
      void this.join().catch(() => undefined);
    });
    await this.reach(hub);
  }

  /** What was reached once is reached again by itself; until then it is tried here. */
  private async reach(hub: HubConnection): Promise<void> {
    try {
      await hub.start();
      this.report(true);
      await this.join();
    } catch {
      this.report(false);
      if (!this.closed && hub.state === HubConnectionState.Disconnected)
        setTimeout(() => this.closed || void this.reach(hub), this.pause);
    }
  }

  /** Steps may have passed unheard before. What is still unanswered here goes first; then the truth is fetched. */
  private async join(): Promise<void> {
    const revision = await this.hub!.invoke<number>('Join', this.scene);
    this.whenIdle(() => {
      if (this.core.revision() < revision) void this.catchUp();
    });
  }

  /** Takes in by the log what was missed; where that cannot be had any more, the scene is fetched whole. */
  private async catchUp(): Promise<void> {
    try {
      for (let behind = true; behind && !this.closed;) {
        const { revision, entries } = await api.log(this.scene, this.core.revision());
        if (entries.length === 0 && this.core.revision() < revision) throw new Error('The log does not follow on.');
        for (const entry of entries) this.enter(entry);
        const next = entries.at(-1)?.revision ?? revision;
        if (this.core.revision() < next) throw new Error('The log does not follow on.');
        behind = next < revision;
      }
    } catch (error) {
      if (this.closed) return;
      if (error instanceof OutOfReach) setTimeout(() => this.closed || void this.catchUp(), this.pause);
      else this.events.reload();
    }
  }

  /** Takes in an entry of the log: what was missed, or what came by another server. */
  private enter({ revision, written, step, key, digest, described }: LogEntry): void {
    this.hear({
      revision,
      written,
      changed: [],
      removed: [],
      ...(step ? { step, key: key ?? null, digest: digest ?? null } : {}),
      ...(described ? { described } : {}),
    });
  }

  /** Tells the other pages on the scene what is picked here. */
  tellPicked(nodes: string[]): void {
    this.picked = nodes.slice(0, 500);
    if (this.hub?.state === HubConnectionState.Connected)
      void this.hub.invoke('Picked', this.scene, this.picked).catch(() => undefined);
  }

  /** Tells the other pages what is tried here; nothing: it has ended. */
  tellTrying(edits: string | null): void {
    if (this.hub?.state !== HubConnectionState.Connected || this.closed) return;
    void this.hub.invoke('Trying', this.scene, this.core.revision(), edits).catch(() => undefined);
  }

  /** Whether anybody else was ever here: each says what is picked when another joins. Alone, nothing is told while it is tried. */
  accompanied = false;

  private picked: string[] = [];

  /** By what the server knows this page; null while it is out of reach. */
  get page(): string | null {
    return this.hub?.connectionId ?? null;
  }

  /** Lets go of the scene. @returns Once the call that is under way has ended; what else is unsent is left in the outbox. */
  async close(): Promise<void> {
    this.closed = true;
    clearTimeout(this.gap);
    void this.hub?.stop();
    await this.running;
    for (const job of this.jobs) job.done(null);
    this.outbox.letGo(this.scene);
  }

  send(kept: Kept): void {
    this.push({
      call: 'edits',
      ticket: kept.ticket,
      edits: kept.edits,
      within: withinOf(kept),
      sentence: kept.sentence,
      done: () => undefined,
    });
  }

  restore(kind: 'undo' | 'redo', to?: number): Promise<StepAnswer | null> {
    // A step that has not left the page yet is simply taken back here.
    const last = this.jobs.at(-1);
    if (kind === 'undo' && to === undefined && last?.ticket != null && !this.online) {
      this.forget(last);
      this.events.heard(this.core.drop(last.ticket));
      this.report(this.online);
      return Promise.resolve(null);
    }
    return new Promise((done) => {
      const sentence = kind === 'undo' ? 'Undo' : 'Redo';
      this.push({ call: kind, ticket: null, sentence, done, ...(to === undefined ? {} : { to }) });
    });
  }

  get waiting(): number {
    return this.jobs.length;
  }

  /** Takes in the answer of a call that was made beside the others; the push of the same step may have come before. */
  told(answer: StepAnswer): void {
    this.hear(answer);
  }

  /** The scene was opened anew: what came early is in it. */
  reopened(): void {
    for (const revision of this.early.keys()) if (revision <= this.core.revision()) this.early.delete(revision);
    this.hearFollowing();
  }

  private push(job: Omit<Job, 'key'>): void {
    const made = { key: crypto.randomUUID(), ...job };
    this.jobs.push(made);
    const { key, call, edits, within, to, sentence } = made;
    this.outbox.add(this.scene, { key, call, edits, within, to, sentence }, this.core.revision());
    this.running ??= this.run().finally(() => (this.running = null));
  }

  private forget(job: Job): void {
    this.outbox.remove(job.key);
    const at = this.jobs.indexOf(job);
    if (at >= 0) this.jobs.splice(at, 1);
  }

  private async run(): Promise<void> {
    let tries = 0;
    while (this.jobs.length > 0 && !this.closed) {
      const job = this.jobs[0]!;
      this.report(this.online);
      try {
        const answer = await this.call(job);
        this.sent = job;
        this.forget(job);
        this.online = true;
        tries = 0;
        if (answer) this.hear(answer);
        if (!this.closed) this.outbox.know(this.scene, this.core.revision());
        job.done(job.call === 'edits' ? null : (answer as StepAnswer | null));
      } catch (error) {
        if (error instanceof Refused) {
          this.forget(job);
          tries = 0;
          this.refuse(job, error);
        } else if (!this.jobs.includes(job)) {
          // It was answered, but what the answer says could not be taken in.
          this.events.reload();
          job.done(null);
        } else {
          this.wellness = !(error instanceof OutOfReach) || error.answered ? await api.wellness() : null;
          const well = this.wellness === 'ok';
          this.report(well);
          if (well && ++tries >= mostTries) {
            this.forget(job);
            tries = 0;
            this.setAside(job);
          } else if (!this.closed) await new Promise((resolve) => setTimeout(resolve, this.pause));
        }
      }
    }
    this.report(this.online);
  }

  /** @returns What is to be taken in; null where the page had computed the same. */
  private async call(job: Job): Promise<StepAnswer | null> {
    const base = this.core.revision();
    const answer = await sendStep(this.scene, job, base, this.page);
    if (job.call !== 'edits') return answer as StepAnswer;
    if (this.closed || this.core.agree(answer.revision, job.ticket!, answer.digest ?? '')) {
      this.step = answer.step.number;
      if (!this.closed) this.hearFollowing();
      return null;
    }
    // The same call again, by its key, gives the first answer in full.
    return api.edit(this.scene, base, job.key, job.edits ?? [], job.within ?? {});
  }

  private refuse(job: Job, error: Refused): void {
    if (this.closed) {
      this.events.refused(`“${job.sentence}” was not made: ${error.detail}`);
      return;
    }
    this.events.refused(error.detail);
    this.takeBack(job);
    // What is still to be sent goes first; then the truth is fetched.
    if (job.ticket !== null && ['changed-meanwhile', 'not-found', 'no-longer-kept'].includes(error.refusal)) {
      this.whenIdle(() => void this.catchUp());
    }
  }

  private setAside(job: Job): void {
    if (!this.closed) this.takeBack(job);
    this.events.setAside(job);
  }

  /** What the server does not make is not shown any more; what was refused for it is said before. */
  private takeBack(job: Job): void {
    if (job.ticket !== null) this.events.heard(this.core.drop(job.ticket));
    job.done(null);
  }

  /** Takes in what happened in the order of revisions; what comes early waits for what was before it. */
  private hear(news: News): void {
    if (this.closed) return;
    // The push of an own step may come before the answer to its call.
    const own = [this.sent, ...this.jobs].find((job) => job?.call === 'edits' && job.key === news.key);
    const ticket = news.ticket ?? own?.ticket ?? null;
    const next = this.core.revision() + 1;
    if (news.revision < next) return;
    if (news.revision > next) {
      this.early.set(news.revision, { ...news, ticket });
      clearTimeout(this.gap);
      this.gap = setTimeout(() => this.whenIdle(() => void this.catchUp()), 2000);
      return;
    }
    if (news.step) this.step = news.step.number;
    this.events.hearing();
    // What both computed alike needs no second look at its numbers.
    const agreed = ticket !== null && this.core.agree(news.revision, ticket, news.digest ?? '');
    if (!agreed) this.events.heard(this.core.hear({ ...news, ticket }));
    if (news.described) this.events.described(news.described.name, news.described.unit);
    this.hearFollowing();
    this.report(this.online);
  }

  /** Takes in the step that came too early before, when its turn has come. */
  private hearFollowing(): void {
    const next = this.core.revision() + 1;
    const following = this.early.get(next);
    this.early.delete(next);
    if (following) this.hear(following);
    else if (this.early.size === 0) clearTimeout(this.gap);
  }

  private report(online: boolean): void {
    this.online = online;
    if (!this.closed)
      this.events.state({ online, waiting: this.jobs.length, step: this.step, wellness: this.wellness });
  }

  private whenIdle(act: () => void): void {
    if (this.closed) return;
    if (this.jobs.length === 0) act();
    else setTimeout(() => this.whenIdle(act), 300);
  }
}
