/**
 * Keeps drags fluent where drawing is slow (no graphics card, very large scenes): while something is being moved, fewer
 * pixels are drawn; as soon as it rests, all of them.
 */
export class Pace {
  private lastMoved = -Infinity;
  private lastDrawn = 0;
  private gap = 0;
  private slowInARow = 0;
  private slow = false;
  private rest: ReturnType<typeof setTimeout> | undefined;
  coarse = false;

  constructor(
    private readonly changed: () => void,
    private readonly rested: () => void,
  ) {}

  /** Something is being moved now. */
  moving(): void {
    this.lastMoved = performance.now();
    if (this.slow && !this.coarse) this.turn(true);
    clearTimeout(this.rest);
    // Where a picture takes longer than that, the next one is waited for.
    this.rest = setTimeout(() => (this.coarse ? this.turn(false) : this.rested()), Math.max(220, 3 * this.gap));
  }

  /** Something has been moved within the last moment; when it rests, one more picture is drawn. */
  get isMoving(): boolean {
    return performance.now() - this.lastMoved < 200;
  }

  /** A picture is about to be drawn; while something moves, the time since the last one tells how slow drawing is. */
  drawing(now: number): void {
    const gap = now - this.lastDrawn;
    this.lastDrawn = now;
    if (now - this.lastMoved < 2000) this.gap = Math.min(gap, 1500);
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
