import { LinearSRGBColorSpace, type Color } from 'three';
import type { Colour } from '../core/colour';

/** Gives a colour of three.js what a surface or a lamp has. */
export const take = (into: Color, colour: Colour): Color =>
  typeof colour === 'string' ? into.set(colour) : into.setRGB(...colour, LinearSRGBColorSpace);
