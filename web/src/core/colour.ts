import type { Color as Colour } from '../wire/bridgeTypes';

export type { Colour };

/** As a style is told of it. A finer one than six figures can say is given by its linear shares. */
export const cssOf = (colour: Colour) =>
  typeof colour === 'string' ? colour : `color(srgb-linear ${colour.map((share) => share.toString()).join(' ')})`;

/** Each once. */
export function distinct<C extends Colour>(colours: C[]): C[] {
  return [...new Map(colours.map((colour) => [cssOf(colour).toUpperCase(), colour])).values()];
}
