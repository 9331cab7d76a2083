/** A long name, cut in the middle: beginning and end tell most. */
export function middleCut(name: string, most: number): string {
  const half = Math.floor((most - 1) / 2);
  return name.length <= most ? name : `${name.slice(0, half)}…${name.slice(-half)}`;
}
