import {
  Color,
  DataTexture,
  EquirectangularReflectionMapping,
  FloatType,
  LinearFilter,
  MathUtils,
  RGBAFormat,
  SRGBColorSpace,
  Texture,
  Vector3,
  type Scene,
} from 'three';
import type { SurroundingsAnswer } from '../core/answers';

const [columns, rows] = [64, 32];

/** A direction that light comes from, and how much: per square metre that faces it. */
export interface FromASide {
  way: Vector3;
  color: Color;
}

/** What lights a scene from all sides, as a picture that goes all the way round. */
export class Sky {
  /** Once its picture has come, or is known not to come. */
  readonly ready: Promise<void>;
  private texture: Texture;
  /** Its light by direction in 64 × 32 fields, from straight down to straight up. */
  private readonly cells = new Float32Array(columns * rows * 4);
  private sums: Float64Array | null = null;
  private isGone = false;

  /** Of one colour or two; with a picture these stand for it until it has come. */
  constructor(s: SurroundingsAnswer, picture: Promise<ImageBitmap | null> | null) {
    this.fill(new Color(s.color), new Color(s.style === 'sky' ? s.ground : s.color));
    const texture = new DataTexture(this.cells.slice(), columns, rows, RGBAFormat, FloatType);
    texture.magFilter = texture.minFilter = LinearFilter;
    this.texture = laid(texture);
    this.ready = picture ? this.bring(picture) : Promise.resolve();
  }

  /** Lights a scene, and is seen behind it where that is asked for. */
  light(scene: Scene, s: SurroundingsAnswer, behind: boolean): void {
    scene.environment = this.texture;
    scene.environmentIntensity = s.strength;
    scene.environmentRotation.set(0, MathUtils.degToRad(s.turn), 0);
    if (!behind) return;
    scene.background = this.texture;
    scene.backgroundIntensity = s.strength;
    scene.backgroundRotation.set(0, MathUtils.degToRad(s.turn), 0);
  }

  /**
   * One direction of many, more often where more light comes from, so that all of them together light as the whole.
   * @param share Which of them, from 0 to 1.
   * @param within Where in its field, two numbers from 0 to 1.
   */
  from(s: SurroundingsAnswer, share: number, within: [number, number]): FromASide {
    const sums = (this.sums ??= this.sum());
    const whole = sums.at(-1)!;
    let [low, high] = [0, sums.length - 1];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (sums[middle]! > share * whole) high = middle;
      else low = middle + 1;
    }
    const [column, row] = [low % columns, Math.floor(low / columns)];
    const up = Math.sin((((row + within[1]) / rows) * 2 - 1) * (Math.PI / 2));
    const turn = ((column + within[0]) / columns - 0.5) * 2 * Math.PI - MathUtils.degToRad(s.turn);
    const flat = Math.sqrt(Math.max(0, 1 - up * up));
    const color = new Color().fromArray(this.cells, 4 * low);
    const bright = luminance(this.cells, 4 * low);
    // As three.js lays such pictures: what is in the middle of it lies toward X.
    return {
      way: new Vector3(Math.cos(turn) * flat, up, Math.sin(turn) * flat),
      color: bright > 0 ? color.multiplyScalar((whole / bright) * s.strength) : color.setScalar(0),
    };
  }

  dispose(): void {
    this.isGone = true;
    this.texture.dispose();
  }

  private sum(): Float64Array {
    const sums = new Float64Array(columns * rows);
    let all = 0;
    for (let row = 0; row < rows; row++) {
      const [low, high] = [row, row + 1].map((r) => Math.sin(((r / rows) * 2 - 1) * (Math.PI / 2)));
      for (let column = 0; column < columns; column++) {
        const at = row * columns + column;
        all += luminance(this.cells, 4 * at) * (high! - low!) * ((2 * Math.PI) / columns);
        sums[at] = all;
      }
    }
    return sums;
  }

  private fill(above: Color, below: Color): void {
    for (let at = 0; at < columns * rows; at++) {
      const y = Math.sin((((Math.floor(at / columns) + 0.5) / rows) * 2 - 1) * (Math.PI / 2));
      below
        .clone()
        .lerp(above, MathUtils.smoothstep(y, -0.12, 0.12))
        .toArray(this.cells, 4 * at);
      this.cells[4 * at + 3] = 1;
    }
  }

  private async bring(picture: Promise<ImageBitmap | null>): Promise<void> {
    const image = await picture;
    if (!image || this.isGone) return;
    const upright = await createImageBitmap(image, { imageOrientation: 'flipY' });
    if (this.isGone) {
      image.close();
      upright.close();
      return;
    }
    const texture = new Texture(upright);
    texture.colorSpace = SRGBColorSpace;
    const small = new OffscreenCanvas(columns, rows).getContext('2d')!;
    small.imageSmoothingQuality = 'high';
    small.drawImage(image, 0, 0, columns, rows);
    image.close();
    const { data } = small.getImageData(0, 0, columns, rows);
    const color = new Color();
    for (let at = 0; at < columns * rows; at++) {
      const from = 4 * ((rows - 1 - Math.floor(at / columns)) * columns + (at % columns));
      color.setRGB(data[from]! / 255, data[from + 1]! / 255, data[from + 2]! / 255, SRGBColorSpace);
      color.toArray(this.cells, 4 * at);
    }
    this.sums = null;
    this.texture.dispose();
    this.texture = laid(texture);
    texture.addEventListener('dispose', () => upright.close());
  }
}

function laid(texture: Texture): Texture {
  texture.mapping = EquirectangularReflectionMapping;
  texture.needsUpdate = true;
  return texture;
}

const luminance = (c: Float32Array, at: number) => 0.2126 * c[at]! + 0.7152 * c[at + 1]! + 0.0722 * c[at + 2]!;
