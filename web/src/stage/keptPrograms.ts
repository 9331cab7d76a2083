import type { WebGLProgram, WebGLRenderer } from 'three';

/**
 * Keeps the programs that the graphics card was given, for as long as the stage lives. Three.js lets go of one with the last material that is
 * drawn by it; the next scene, or the next thing of that kind, would wait until it is made anew. There are some dozens: one for each way
 * in which a material can be drawn.
 */
export class KeptPrograms {
  private readonly kept = new WeakSet<WebGLProgram>();
  private known = 0;

  /** To be told after a picture was drawn. */
  keep({ info: { programs } }: WebGLRenderer): void {
    if (!programs || programs.length === this.known) return;
    this.known = programs.length;
    for (const program of programs.filter((p) => !this.kept.has(p))) {
      this.kept.add(program);
      // One more than materials are drawn by it.
      program.usedTimes++;
    }
  }
}
