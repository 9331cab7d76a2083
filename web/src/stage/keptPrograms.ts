import type { WebGLProgram, WebGLRenderer } from 'three';

/**
 * Keeps the programs that the graphics card was given, for as long as the stage lives. Three.js lets go of one with the last material that is
 * drawn by it; the next scene, or the next thing of that kind, would wait until it is made anew. There are some dozens: one for each way
 * in which a material can be drawn.
 */
export class KeptPrograms {
  private readonly kept = new WeakSet<WebGLProgram>();

  /** To be told after a picture was drawn. */
  keep({ info: { programs } }: WebGLRenderer): void {
    for (const program of programs ?? []) {
      if (this.kept.has(program)) continue;
      this.kept.add(program);
      // One more than materials are drawn by it.
      program.usedTimes++;
    }
  }
}
