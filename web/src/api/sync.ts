import { HubConnectionBuilder, HubConnectionState, LogLevel, type HubConnection } from '@microsoft/signalr';
import type { Core, Heard, Kept, Stale } from '../core/bridge';
import { api, OutOfReach, Refused, type StepAnswer } from './client';

/** What the sync tells the page. */
export interface SyncEvents {
  stale(stale: Stale): void;
  refused(detail: string): void;
  state(state: { online: boolean; waiting: number; step?: number }): void;
  described(name: string, unit: string): void;
  reload(): void;
  /** What another page on the scene has picked; nothing once it has left. */
  picked(page: string, nodes: string[]): void;
}

type Job =
  | { kind: 'edit'; key: string; ticket: number; edits: unknown[] }
  | { kind: 'undo' | 'redo'; key: string; to?: number; done: (answer: StepAnswer | null) => void };

/**
 * Sends the page's steps to the server in order, one at a time, each with the revision that the one before led to, and
 * takes in every step that anybody makes. While the server is out of reach the steps wait here and are sent when it is back.
 */
export class Sync {
  private readonly jobs: Job[] = [];
  private readonly early = new Map<number, StepAnswer>();
  private hub: HubConnection | null = null;
  private sent: Job | undefined;
  private running = false;
  private online = true;
  private closed = false;
  private step: number | undefined;
  private gap: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly core: Core,
    private readonly scene: string,
    private readonly events: SyncEvents,
  ) {}

  async connect(): Promise<void> {
    const hub = new HubConnectionBuilder()
      .withUrl('/hub')
      .withAutomaticReconnect({ nextRetryDelayInMilliseconds: () => 1500 })
      .configureLogging(LogLevel.None)
      .build();
    this.hub = hub;
    hub.on('stepped', (step: StepAnswer) => this.hear(step));
    hub.on('described', (d: { revision: number; name: string; unit: string }) => {
      this.core.hear({ revision: d.revision, changed: [], removed: [], ticket: null });
      this.events.described(d.name, d.unit);
    });
    hub.on('picked', (p: { page: string; nodes: string[] }) => this.events.picked(p.page, p.nodes));
    hub.on('joined', () => this.tellPicked(this.picked));
    hub.onreconnecting(() => this.report(false));
    hub.onreconnected(() => {
      this.report(true);
      // Steps may have passed unheard; what is still unanswered here is sent first, then the scene is opened anew.
      void hub.invoke('Join', this.scene).then(() => this.whenIdle(() => this.events.reload()));
    });
    try {
      await hub.start();
      await hub.invoke('Join', this.scene);
    } catch {
      this.report(false);
    }
  }

  /** Tells the other pages on the scene what is picked here. */
  tellPicked(nodes: string[]): void {
    this.picked = nodes.slice(0, 500);
    if (this.hub?.state === HubConnectionState.Connected)
      void this.hub.invoke('Picked', this.scene, this.picked).catch(() => undefined);
  }

  private picked: string[] = [];

  close(): void {
    this.closed = true;
    clearTimeout(this.gap);
    void this.hub?.stop();
  }

  send(kept: Kept): void {
    this.jobs.push({ kind: 'edit', key: crypto.randomUUID(), ticket: kept.ticket, edits: kept.edits });
    void this.run();
  }

  restore(kind: 'undo' | 'redo', to?: number): Promise<StepAnswer | null> {
    // A step that has not left the page yet is simply taken back here.
    const last = this.jobs.at(-1);
    if (kind === 'undo' && to === undefined && last?.kind === 'edit' && !this.online) {
      this.jobs.pop();
      this.take(this.core.drop(last.ticket));
      this.report(this.online);
      return Promise.resolve(null);
    }
    return new Promise((done) => {
      this.jobs.push({ kind, key: crypto.randomUUID(), done, ...(to === undefined ? {} : { to }) });
      void this.run();
    });
  }

  get waiting(): number {
    return this.jobs.length;
  }

  private async run(): Promise<void> {
    if (this.running) return;
    this.running = true;
    while (this.jobs.length > 0 && !this.closed) {
      const job = this.jobs[0]!;
      this.report(this.online);
      try {
        const answer = await this.call(job);
        this.sent = this.jobs.shift();
        this.online = true;
        if (answer) this.hear(answer);
        if (job.kind !== 'edit') job.done(answer);
      } catch (error) {
        if (error instanceof Refused) {
          this.jobs.shift();
          this.refuse(job, error);
        } else if (error instanceof OutOfReach) {
          this.report(false);
          await new Promise((resolve) => setTimeout(resolve, 1500));
        } else {
          throw error;
        }
      }
    }
    this.running = false;
    this.report(this.online);
  }

  /** @returns What is to be taken in; null where the page had computed the same. */
  private async call(job: Job): Promise<StepAnswer | null> {
    const base = this.core.revision();
    const page = this.hub?.connectionId ?? null;
    if (job.kind !== 'edit') return api[job.kind](this.scene, base, job.key, job.to, page);
    const brief = await api.editBriefly(this.scene, base, job.key, job.edits, page);
    if (this.closed || this.core.agree(brief.revision, job.ticket, brief.digest)) {
      this.step = brief.step.number;
      this.hearFollowing();
      return null;
    }
    // The same call again, by its key, gives the first answer in full.
    return api.edit(this.scene, base, job.key, job.edits);
  }

  private refuse(job: Job, error: Refused): void {
    this.events.refused(error.detail);
    if (job.kind === 'edit') {
      this.take(this.core.drop(job.ticket));
      // What is still to be sent goes first; then the truth is fetched.
      if (error.refusal === 'changed-meanwhile' || error.refusal === 'not-found') {
        this.whenIdle(() => this.events.reload());
      }
    } else {
      job.done(null);
    }
  }

  /** Takes in steps in the order of their revisions; one that comes early waits for those before it. */
  private hear(step: StepAnswer): void {
    if (this.closed) return;
    // The push of an own step may come before the answer to its call.
    const own = [this.sent, ...this.jobs].find((job) => job?.kind === 'edit' && job.key === step.key);
    const ticket = own?.kind === 'edit' ? own.ticket : null;
    const next = this.core.revision() + 1;
    if (step.revision < next) return;
    if (step.revision > next) {
      this.early.set(step.revision, step);
      clearTimeout(this.gap);
      this.gap = setTimeout(() => this.whenIdle(() => this.events.reload()), 2000);
      if (ticket !== null) this.take(this.core.drop(ticket));
      return;
    }
    this.step = step.step.number;
    // What both computed alike needs no second look at its numbers.
    const agreed = ticket !== null && this.core.agree(step.revision, ticket, step.digest);
    if (!agreed) this.take(this.core.hear({ ...step, ticket }));
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

  private take(heard: Heard): void {
    this.events.stale(heard.stale);
    for (const dropped of heard.dropped) this.events.refused(dropped.detail);
  }

  private report(online: boolean): void {
    this.online = online;
    if (!this.closed) this.events.state({ online, waiting: this.jobs.length, step: this.step });
  }

  private whenIdle(act: () => void): void {
    if (this.closed) return;
    if (this.jobs.length === 0) act();
    else setTimeout(() => this.whenIdle(act), 300);
  }
}
