import {
  DirectionalLight,
  HemisphereLight,
  Mesh,
  PerspectiveCamera,
  Scene,
  SphereGeometry,
  type WebGLRenderer,
} from 'three';
import type { Materials } from './shading';

/** Pixels of the small picture of a material. */
const size = 72;

/** Draws a ball in a material, for its card: at the foot of the canvas, which is drawn anew before the page shows it. */
export class Ball {
  private readonly scene = new Scene();
  private readonly camera = new PerspectiveCamera(26, 1, 0.1, 20);
  private readonly mesh = new Mesh(new SphereGeometry(1, 48, 32));
  private readonly small = document.createElement('canvas');

  constructor() {
    const [sky, sun] = [new HemisphereLight('#fffaf0', '#9a8b74', 1.5), new DirectionalLight('#fff4e2', 2.6)];
    sun.position.set(-2, 3, 3);
    this.scene.add(sky, sun, this.mesh);
    this.camera.position.set(0, 0, 4.7);
    [this.small.width, this.small.height] = [size, size];
  }

  /** A picture as an address; null: the canvas is too small for it at the moment. */
  draw(renderer: WebGLRenderer, materials: Materials, id: string): string | null {
    const { domElement: canvas } = renderer;
    if (canvas.width < size || canvas.height < size) return null;
    const ratio = renderer.getPixelRatio();
    this.mesh.material = materials.surface('coloured', {
      material: id,
      tint: null,
      vertexColors: false,
      tangents: false,
    })!;
    renderer.setRenderTarget(null);
    renderer.setViewport(0, 0, size / ratio, size / ratio);
    renderer.setScissor(0, 0, size / ratio, size / ratio);
    renderer.setScissorTest(true);
    renderer.setClearColor(0x000000, 0);
    renderer.clear();
    renderer.render(this.scene, this.camera);
    renderer.setScissorTest(false);
    const context = this.small.getContext('2d')!;
    context.clearRect(0, 0, size, size);
    // Round, whatever stands behind it.
    context.save();
    context.beginPath();
    context.arc(size / 2, size / 2, size * 0.462, 0, 2 * Math.PI);
    context.clip();
    context.drawImage(canvas, 0, canvas.height - size, size, size, 0, 0, size, size);
    context.restore();
    return this.small.toDataURL('image/png');
  }
}
