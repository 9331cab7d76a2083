import { Document, NodeIO, type Texture } from '@gltf-transform/core';
import { KHRLightsPunctual } from '@gltf-transform/extensions';
import { crc32, deflateSync } from 'node:zlib';

/** A small PNG of one colour with a darker corner, so that it can be told apart from a plain one. */
export function png(r: number, g: number, b: number, size = 8): Uint8Array {
  const rows = Buffer.alloc(size * (1 + 3 * size));
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      const dark = x < size / 2 && y < size / 2 ? 0.5 : 1;
      rows.set([r * dark, g * dark, b * dark], y * (1 + 3 * size) + 1 + 3 * x);
    }
  const chunk = (type: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(type), data]);
    const length = Buffer.alloc(4);
    length.writeUInt32BE(data.length);
    const sum = Buffer.alloc(4);
    sum.writeUInt32BE(crc32(body));
    return Buffer.concat([length, body, sum]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(size, 0);
  head.writeUInt32BE(size, 4);
  head.set([8, 2, 0, 0, 0], 8);
  return new Uint8Array(
    Buffer.concat([
      Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
      chunk('IHDR', head),
      chunk('IDAT', deflateSync(rows)),
      chunk('IEND', Buffer.alloc(0)),
    ]),
  );
}

/**
 * A file as it comes from elsewhere: a crate whose material has all five kinds of textures, a lid that rides on it with a
 * material of its own, two pieces in one mesh, equal names, a long one, a mirrored node, a lamp and a camera.
 */
export async function texturedFile(): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const picture = (name: string, r: number, g: number, b: number): Texture =>
    document
      .createTexture(name)
      .setImage(png(r, g, b))
      .setMimeType('image/png');
  const all = document
    .createMaterial('Painted wood')
    .setBaseColorFactor([0.9, 0.8, 0.7, 1])
    .setRoughnessFactor(0.7)
    .setMetallicFactor(0.1)
    .setBaseColorTexture(picture('Grain', 200, 150, 90))
    .setNormalTexture(picture('Bumps', 128, 128, 255))
    .setNormalScale(0.5)
    .setMetallicRoughnessTexture(picture('Wear', 0, 180, 20))
    .setEmissiveFactor([0.2, 0.1, 0])
    .setEmissiveTexture(picture('Glow', 90, 40, 10))
    .setOcclusionTexture(picture('Corners', 220, 220, 220))
    .setOcclusionStrength(0.8);
  const plain = document
    .createMaterial('Plain')
    .setBaseColorTexture(picture('Plain', 60, 90, 160))
    .setDoubleSided(true);
  const quad = (x: number, material = all) => {
    const accessor = (type: 'VEC3' | 'VEC2', numbers: number[]) =>
      document.createAccessor().setType(type).setArray(new Float32Array(numbers)).setBuffer(buffer);
    return document
      .createPrimitive()
      .setAttribute('POSITION', accessor('VEC3', [x, 0, 0, x + 1, 0, 0, x + 1, 1, 0, x, 1, 0]))
      .setAttribute('NORMAL', accessor('VEC3', [0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1]))
      .setAttribute('TEXCOORD_0', accessor('VEC2', [0, 1, 1, 1, 1, 0, 0, 0]))
      .setIndices(
        document
          .createAccessor()
          .setType('SCALAR')
          .setArray(new Uint16Array([0, 1, 2, 0, 2, 3]))
          .setBuffer(buffer),
      )
      .setMaterial(material);
  };
  const lights = document.createExtension(KHRLightsPunctual);
  const crate = document
    .createNode('Crate')
    .setMesh(document.createMesh('Crate').addPrimitive(quad(0)).addPrimitive(quad(2, plain)))
    .setTranslation([0, 0.5, 0]);
  const lid = document
    .createNode('Crate')
    .setMesh(document.createMesh('Lid').addPrimitive(quad(0, plain)))
    .setTranslation([0, 1, 0])
    .setScale([-1, 1, 1]);
  const lamp = document
    .createNode('Lamp')
    .setTranslation([1, 3, 2])
    .setExtension('KHR_lights_punctual', lights.createLight('Lamp').setType('point').setIntensity(80));
  const camera = document
    .createNode('A camera with a name so long that it has to be cut somewhere in the middle')
    .setTranslation([0, 1, 6])
    .setCamera(document.createCamera('Camera').setType('perspective').setYFov(0.7).setZNear(0.1).setZFar(100));
  crate.addChild(lid);
  document.createScene('Crate').addChild(crate).addChild(lamp).addChild(camera);
  return new NodeIO().registerExtensions([KHRLightsPunctual]).writeBinary(document);
}
