/**
 * Keeps drags fluent where drawing is slow (no graphics card, very large scenes): while something is being moved, fewer
 * pixels are drawn; as soon as it rests, all of them.
 */
export class Pace {
  private lastMoved = -Infinity;
  private lastDrawn = 0;
  private slowInARow = 0;
  private slow = false;
  private rest: ReturnType<typeof setTimeout> | undefined;
  coarse = false;

  constructor(private readonly changed: () => void) {}

  /** Something is being moved now. */
  moving(): void {
    this.lastMoved = performance.now();
    if (this.slow && !this.coarse) this.turn(true);
    clearTimeout(this.rest);
    this.rest = setTimeout(() => this.coarse && this.turn(false), 220);
  }

  /** A picture is about to be drawn; while something moves, the time since the last one tells how slow drawing is. */
  drawing(now: number): void {
    const gap = now - this.lastDrawn;
    this.lastDrawn = now;
    if (this.slow || now - this.lastMoved > 200) return;
    this.slowInARow = gap > 90 && gap < 2000 ? this.slowInARow + 1 : 0;
    this.slow = this.slowInARow >= 2;
  }

  dispose(): void {
    clearTimeout(this.rest);
  }

  private turn(coarse: boolean): void {
    this.coarse = coarse;
    this.changed();
  }
}
