/** What was picked between edits, when a person wants undo to take selections back, too. */
export class SelectionSteps {
  private past: (string[] | 'edit')[] = [];
  private future: (string[] | 'edit')[] = [];

  /** A selection has been changed by hand. */
  changed(before: string[]): void {
    this.past.push(before);
    if (this.past.length > 200) this.past.shift();
    this.future = [];
  }

  edited(): void {
    this.past.push('edit');
    this.future = [];
  }

  /** The selection to go back (or forward) to; null where an edit or nothing comes first. */
  step(way: 'undo' | 'redo', now: string[]): string[] | null {
    const [from, to] = way === 'undo' ? [this.past, this.future] : [this.future, this.past];
    const next = from.pop();
    if (next === undefined) return null;
    to.push(next === 'edit' ? 'edit' : now);
    return next === 'edit' ? null : next;
  }

  clear(): void {
    this.past = [];
    this.future = [];
  }
}
