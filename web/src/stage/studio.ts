import {
  DirectionalLight,
  Group,
  HemisphereLight,
  PointLight,
  SpotLight,
  Vector3,
  type Light,
  type Sphere,
} from 'three';
import { session } from '../acts/session';
import type { Pictures } from './pictures';

/** More lamps than this would make every surface slow; the brightest are taken. */
const mostLamps = 12;

/** The light of the stage: a soft studio, or the scene's own lamps. */
export class Studio {
  readonly group = new Group();
  private readonly sky = new HemisphereLight();
  private readonly sun = new DirectionalLight();
  private readonly studio = new Group();
  private readonly lamps = new Group();
  private lampsKey = '';

  constructor() {
    this.sun.castShadow = true;
    this.sun.shadow.mapSize.set(1536, 1536);
    this.sun.shadow.bias = -0.0006;
    this.sun.shadow.normalBias = 0.02;
    this.sun.shadow.radius = 5;
    this.sun.shadow.intensity = 0.62;
    this.studio.add(this.sky, this.sun, this.sun.target);
    this.group.add(this.studio, this.lamps);
    this.lamps.visible = false;
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

  /** Which of the two lights the picture that is drawn next. */
  use(lamps: boolean, pictures: Pictures, sphere: Sphere, final = false): void {
    this.studio.visible = !lamps;
    this.lamps.visible = lamps;
    if (lamps) this.placeLamps(pictures, sphere, final);
  }

  /** The brightest lamps, dimmed together so that the middle of the scene is neither dark nor blinding. */
  private placeLamps(pictures: Pictures, sphere: Sphere, final: boolean): void {
    const found: { light: Light; lux: number }[] = [];
    const at = this.lamps.matrix.clone();
    for (const drawn of pictures.nodes) {
      if (drawn.row.kind !== 'light' || !(final ? drawn.final : drawn.seen)) continue;
      const data = session.core.node(drawn.id)?.node.light;
      if (!data || data.intensity <= 0) continue;
      const light =
        data.type === 'directional'
          ? new DirectionalLight(data.color, data.intensity)
          : data.type === 'spot'
            ? new SpotLight(data.color, data.intensity, data.range ?? 0, ((data.outerCone ?? 45) * Math.PI) / 180)
            : new PointLight(data.color, data.intensity, data.range ?? 0);
      pictures.matrix(drawn, at);
      light.position.setFromMatrixPosition(at);
      const away = Math.max(light.position.distanceTo(sphere.center), sphere.radius * 0.15, 1e-3);
      if (light instanceof SpotLight || light instanceof DirectionalLight) {
        if (light instanceof SpotLight) light.penumbra = 1 - (data.innerCone ?? 0) / (data.outerCone ?? 45);
        light.target.position.copy(light.position).add(new Vector3(0, 0, -1).transformDirection(at));
        light.target.updateMatrixWorld();
      }
      found.push({ light, lux: light instanceof DirectionalLight ? data.intensity : data.intensity / away ** 2 });
    }
    found.sort((a, b) => b.lux - a.lux).splice(mostLamps);
    const total = found.reduce((sum, f) => sum + f.lux, 0);
    const key = found.map((f) => f.light.type).join();
    // The same kinds of lamps are kept, so that no surface has to be prepared anew.
    if (key !== this.lampsKey) {
      this.lamps.clear();
      const fill = new HemisphereLight('#ffffff', '#8a8378', found.length === 0 ? 0.5 : 0.22);
      this.lamps.add(fill, ...found.map((f) => f.light));
      this.lampsKey = key;
    }
    const kept = this.lamps.children.slice(1) as Light[];
    kept.forEach((light, i) => {
      const wanted = found[i]!.light;
      light.intensity = (wanted.intensity * 5) / Math.max(total, 1e-9);
      light.color.copy(wanted.color);
      light.position.copy(wanted.position);
      if (light instanceof SpotLight || light instanceof DirectionalLight) {
        light.target.position.copy((wanted as SpotLight).target.position);
        light.target.updateMatrixWorld();
      }
    });
    this.lamps.updateMatrixWorld(true);
  }
}
