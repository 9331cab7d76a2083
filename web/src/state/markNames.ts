/** A name for a new mark that none has yet. */
export function nextMarkName(names: string[]): string {
  for (let i = names.length + 1; ; i++) if (!names.includes(`Mark ${i}`)) return `Mark ${i}`;
}
