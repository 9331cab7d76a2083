import type { Quaternion } from 'three';
import type { Lens } from '../core/answers';
import { copyOf, Eye, turnOf, type Look } from './eye';
import type { ViewName, ViewState } from '../state/store';

const right = Math.PI / 2;
export const turns: Record<Exclude<ViewName, 'free' | 'camera'>, Quaternion> = {
  front: turnOf(0, 0),
  back: turnOf(Math.PI, 0),
  right: turnOf(right, 0),
  left: turnOf(-right, 0),
  top: turnOf(0, right),
  bottom: turnOf(0, -right),
};

/** How a view was at some moment, so that it can be come back to. */
interface Moment {
  state: Pick<ViewState, 'name' | 'camera' | 'parallel'>;
  look: Look;
}

/** One view of the stage: its eye and the way back through what it has shown. */
export class View {
  readonly eye = new Eye();
  /** Where the view lies on the stage, in pixels from the top left. */
  rect = { x: 0, y: 0, width: 1, height: 1 };
  shown = true;
  private free: Moment | null = null;
  /** The free view as it was before a camera was looked through and left by navigating. */
  private kept: Moment | null = null;
  private start: Moment | null = null;
  private readonly past: Moment[] = [];
  private readonly future: Moment[] = [];

  constructor(
    readonly index: number,
    /** What the page knows of the view. */
    readonly state: () => ViewState,
    private readonly change: (change: Partial<ViewState>) => void,
  ) {}

  /** Called before anything changes how the view looks. */
  remember(): void {
    const now = this.moment();
    const last = this.past.at(-1);
    if (last && same(last, now)) return;
    this.past.push(now);
    if (this.past.length > 60) this.past.shift();
    this.future.length = 0;
  }

  /** Shows from a standard side, or freely again from where the free view was. */
  show(name: Exclude<ViewName, 'camera'>): void {
    this.remember();
    this.leaveFree();
    this.eye.lens = null;
    if (name === 'free') {
      this.free = this.kept ?? this.free;
      this.kept = null;
      if (this.free) {
        this.take(this.free, true);
        return;
      }
      this.eye.parallel = false;
      this.eye.glideTo({ ...copyOf(this.eye.heading), turn: turnOf(0.42, 0.3) }, true);
    } else {
      this.eye.parallel = true;
      this.eye.glideTo({ ...copyOf(this.eye.heading), turn: turns[name].clone() }, true);
    }
    this.change({ name, camera: null, steering: false, parallel: this.eye.parallel });
  }

  /** Looks through a camera of the scene. */
  through(camera: string, world: number[], lens: Lens, distance: number): void {
    if (this.state().camera !== camera) {
      this.remember();
      this.leaveFree();
    }
    this.follow(world, lens, distance);
    this.change({ name: 'camera', camera, steering: false, parallel: this.eye.parallel });
  }

  /** Keeps to a camera that stands elsewhere now. */
  follow(world: number[], lens: Lens, distance: number): void {
    this.eye.lens = lens;
    this.eye.parallel = lens.projection === 'parallel';
    this.eye.stand(world, distance);
  }

  /** Goes on freely from where a camera looks; "free view" still leads to where the free view was. */
  freeHere(): void {
    this.remember();
    this.eye.lens = null;
    this.change({ name: 'free', camera: null, steering: false });
    this.kept = this.free;
  }

  /** Navigation turns a standard view into a free one, from where it is. */
  loosen(): void {
    if (this.state().name !== 'free' && this.state().name !== 'camera') this.change({ name: 'free' });
  }

  toggleParallel(): void {
    if (this.eye.lens) return;
    this.remember();
    this.eye.parallel = !this.eye.parallel;
    this.change({ parallel: this.eye.parallel });
  }

  /** The view that a scene is entered by; "back to the start" leads here. */
  begin(look: Look, name: Exclude<ViewName, 'camera'>): void {
    this.eye.lens = null;
    this.eye.parallel = name !== 'free';
    this.eye.look = name === 'free' ? look : { ...look, turn: turns[name].clone() };
    this.start = { state: { name, camera: null, parallel: this.eye.parallel }, look: copyOf(this.eye.look) };
    this.free = this.kept = null;
    this.past.length = this.future.length = 0;
    this.change({ name, camera: null, steering: false, parallel: this.eye.parallel });
  }

  /** As it was when the scene was left; the start stays what it is. */
  recall(look: Look, state: Omit<ViewState, 'steering'>): void {
    this.eye.lens = null;
    this.eye.parallel = state.parallel;
    this.eye.look = look;
    const name = state.name === 'camera' ? 'free' : state.name;
    this.change({ ...state, name, camera: null, steering: false });
  }

  toStart(): void {
    if (!this.start) return;
    this.remember();
    this.take(this.start, true);
  }

  /** The view before this one, or the one after it; null where there is none. */
  step(way: -1 | 1): Moment | null {
    const [from, to] = way < 0 ? [this.past, this.future] : [this.future, this.past];
    const now = this.moment();
    let next = from.pop();
    if (next && same(next, now)) next = from.pop();
    if (!next) return null;
    to.push(now);
    if (next.state.name !== 'camera') this.take(next, true);
    return next;
  }

  private moment(): Moment {
    const { name, camera, parallel } = this.state();
    return { state: { name, camera, parallel }, look: copyOf(this.eye.heading) };
  }

  private leaveFree(): void {
    if (this.state().name === 'free') this.free = this.moment();
  }

  private take({ state, look }: Moment, glide: boolean): void {
    this.eye.lens = null;
    this.eye.parallel = state.parallel;
    this.eye.glideTo(copyOf(look), glide);
    this.change({ ...state, steering: false });
  }
}

function same(a: Moment, b: Moment): boolean {
  return (
    a.state.name === b.state.name &&
    a.state.camera === b.state.camera &&
    a.state.parallel === b.state.parallel &&
    a.look.target.distanceTo(b.look.target) < 1e-6 * b.look.distance &&
    a.look.turn.angleTo(b.look.turn) < 1e-5 &&
    Math.abs(a.look.distance / b.look.distance - 1) < 1e-6
  );
}
