import { BufferAttribute, BufferGeometry } from 'three';

/** One part of stored geometry, ready to draw. The form is described in src/Core/Shapes/GeometryBinary.cs. */
export interface DrawnPart {
  mode: 'points' | 'lines' | 'triangles';
  slot: number;
  geometry: BufferGeometry;
  /** The lines of its wire picture, made when first wanted. */
  edges?: BufferGeometry;
}

const modes = ['points', 'lines', 'triangles'] as const;

export function readGeometry(bytes: Uint8Array): DrawnPart[] {
  const copy = bytes.byteOffset % 4 === 0 ? bytes : new Uint8Array(bytes);
  const words = new Uint32Array(copy.buffer, copy.byteOffset, copy.byteLength >> 2);
  if (words[0] !== 0x31475043) throw new Error('This is no stored geometry.');
  let at = 2;
  const floats = (count: number) => {
    const block = new Float32Array(copy.buffer, copy.byteOffset + at * 4, count);
    at += count;
    return block;
  };
  const parts: DrawnPart[] = [];
  for (let i = 0; i < words[1]!; i++) {
    const [mode, slot, vertices, indices, flags] = words.subarray(at, at + 5) as unknown as number[];
    at += 5;
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(floats(3 * vertices!), 3));
    if (flags! & 1) geometry.setAttribute('normal', new BufferAttribute(floats(3 * vertices!), 3));
    if (flags! & 2) geometry.setAttribute('color', new BufferAttribute(floats(4 * vertices!), 4));
    if (flags! & 4) geometry.setAttribute('tangent', new BufferAttribute(floats(4 * vertices!), 4));
    // More than four sets three.js cannot read.
    for (let set = 0; set < flags! >> 3; set++) {
      const coordinates = new BufferAttribute(floats(2 * vertices!), 2);
      if (set < 4) geometry.setAttribute(set === 0 ? 'uv' : `uv${set}`, coordinates);
    }
    geometry.setIndex(new BufferAttribute(words.slice(at, at + indices!), 1));
    at += indices!;
    if (!geometry.getAttribute('normal') && modes[mode!] === 'triangles') geometry.computeVertexNormals();
    parts.push({ mode: modes[mode!] ?? 'triangles', slot: slot!, geometry });
  }
  return parts;
}
