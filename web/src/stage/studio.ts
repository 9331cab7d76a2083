import { DirectionalLight, Group, HemisphereLight, Vector3, type Sphere } from 'three';
import type { LampReading } from '../core/answers';
import { Lamplight } from './lamplight';

/** The light of the stage: a soft studio, or the scene's own lamps. */
export class Studio {
  readonly group = new Group();
  private readonly sky = new HemisphereLight();
  private readonly sun = new DirectionalLight();
  private readonly studio = new Group();
  private readonly lamps = new Lamplight();

  constructor() {
    this.sun.castShadow = true;
    // On a screen that is coarser than the page finer shadows would not be seen.
    const fine = Math.round(1536 * Math.min(1, window.devicePixelRatio || 1));
    this.sun.shadow.mapSize.set(fine, fine);
    this.sun.shadow.bias = -0.0006;
    this.sun.shadow.normalBias = 0.02;
    this.sun.shadow.radius = 5;
    this.sun.shadow.intensity = 0.62;
    this.studio.add(this.sky, this.sun, this.sun.target);
    this.group.add(this.studio, this.lamps.group);
    this.lamps.group.visible = false;
  }

  setTheme(night: boolean): void {
    this.sky.color.set(night ? '#8f97a8' : '#fffaf0');
    this.sky.groundColor.set(night ? '#3a332a' : '#b09f82');
    this.sky.intensity = night ? 1.1 : 1.75;
    this.sun.color.set(night ? '#ffdfb0' : '#fff2dc');
    this.sun.intensity = night ? 1.5 : 2.1;
  }

  /**
   * The sun stands over the shoulder of the scene. Its shadows are drawn about a centre as far as a radius; what casts them
   * may stand anywhere in the scene between there and the sun.
   */
  aim(centre: Vector3, radius: number, scene: Sphere): void {
    const way = new Vector3(0.72, 0.85, 0.26).normalize();
    // How far the scene reaches toward the sun and away from it, as seen from the centre.
    const along = scene.center.clone().sub(centre).dot(way);
    const [before, behind] = [Math.max(radius, along + scene.radius), Math.max(radius, scene.radius - along)];
    this.sun.target.position.copy(centre);
    this.sun.position.copy(centre).addScaledVector(way, before * 1.05);
    const camera = this.sun.shadow.camera;
    [camera.left, camera.right, camera.bottom, camera.top] = [-radius, radius, -radius, radius];
    [camera.near, camera.far] = [before * 0.01, before * 1.05 + behind * 1.05];
    camera.updateProjectionMatrix();
    this.studio.updateMatrixWorld(true);
  }

  /** Which of the two lights the picture that is drawn next; tells how many lamps are left out. */
  use(lamps: LampReading[] | null, origin: Vector3, sphere: Sphere): number {
    this.studio.visible = lamps === null;
    this.lamps.group.visible = lamps !== null;
    return lamps ? this.lamps.place(lamps, origin, sphere) : 0;
  }
}
