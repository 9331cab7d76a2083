import { DirectionalLight, Group, PointLight, SpotLight, Vector3, type Light, type Sphere } from 'three';
import type { LampReading } from '../core/answers';
import './falloff';
import { take } from './inked';

export type Shining = DirectionalLight | SpotLight | PointLight;

/** A cone wider than a half space: of a panel. See falloff. */
const ofPanel = (90.1 * Math.PI) / 180;

/** A lamp as three.js has it. */
export function shining({ type }: LampReading): Shining {
  return type === 'directional' ? new DirectionalLight() : type === 'point' ? new PointLight() : new SpotLight();
}

/**
 * Brings a light up to what a lamp is.
 * @param origin Taken off, as of all that is drawn.
 * @param aside Where in what shines the light comes from: three numbers from −1 to 1, within a ball.
 */
export function follow(light: Shining, lamp: LampReading, origin: Vector3, aside: Vector3 | null = null): void {
  const { world: m } = lamp;
  const x = new Vector3(m[0], m[1], m[2]);
  const y = new Vector3(m[4], m[5], m[6]);
  const along = new Vector3(-m[8]!, -m[9]!, -m[10]!);
  take(light.color, lamp.color);
  light.intensity = lamp.intensity;
  light.position.set(m[12]!, m[13]!, m[14]!).sub(origin);
  if (light instanceof DirectionalLight) {
    const half = Math.tan(((lamp.size / 2) * Math.PI) / 180);
    if (aside) along.addScaledVector(x, aside.x * half).addScaledVector(y, aside.y * half);
  } else {
    light.distance = lamp.range ?? 0;
    light.decay = 2;
    if (aside && lamp.type === 'panel')
      light.position.addScaledVector(x, (aside.x * lamp.size) / 2).addScaledVector(y, (aside.y * lamp.panelHeight) / 2);
    else if (aside) light.position.addScaledVector(aside, lamp.size / 2);
  }
  if (light instanceof SpotLight) {
    light.angle = lamp.type === 'panel' ? ofPanel : Math.max(1e-4, (lamp.outerCone * Math.PI) / 180);
    light.penumbra = lamp.type === 'panel' ? 1 : 1 - lamp.innerCone / Math.max(lamp.outerCone, 1e-6);
  }
  if (!(light instanceof PointLight)) {
    light.target.position.copy(light.position).add(along);
    light.target.updateMatrixWorld();
  }
  light.updateMatrixWorld();
}

/** How much light a lamp sends to the middle of a scene, to tell which count most. */
export function luxAt(lamp: LampReading, origin: Vector3, sphere: Sphere): number {
  if (lamp.type === 'directional') return lamp.intensity;
  const [x, y, z] = [lamp.world[12]! - origin.x, lamp.world[13]! - origin.y, lamp.world[14]! - origin.z];
  return lamp.intensity / Math.max(sphere.center.distanceTo(new Vector3(x, y, z)), sphere.radius * 0.15, 1e-3) ** 2;
}

/** How many of the fields of a shadow's picture a surface is held away from its own shadow. */
const fields = 2;

/** The room that the shadows of a light are drawn in. */
export function castAbout(light: Shining, sphere: Sphere, size: number): void {
  light.castShadow = true;
  const { shadow } = light;
  const radius = Math.max(sphere.radius, 1e-3);
  if (shadow.mapSize.x !== size) shadow.mapSize.set(size, size);
  shadow.bias = -0.0004;
  const camera = shadow.camera;
  if (light instanceof DirectionalLight) {
    const along = light.target.position.clone().sub(light.position).normalize();
    light.position.copy(sphere.center).addScaledVector(along, -2 * radius);
    light.target.position.copy(sphere.center);
    light.target.updateMatrixWorld();
    light.updateMatrixWorld();
    const flat = light.shadow.camera;
    [flat.left, flat.right, flat.bottom, flat.top] = [-radius, radius, -radius, radius];
    [flat.near, flat.far] = [radius * 0.5, radius * 3.5];
    shadow.normalBias = (2 * radius * fields) / size;
  } else {
    const away = light.position.distanceTo(sphere.center);
    const far = Math.max(away + radius, radius * 0.01);
    [camera.near, camera.far] = [Math.max((away - radius) * 0.9, far * 0.002), far];
    // A panel shines to a whole half space; its shadows end a little before that.
    if (light instanceof SpotLight) light.shadow.focus = light.angle > Math.PI / 2 ? 0.9 : 1;
    const wide = light instanceof SpotLight ? Math.tan(Math.min(light.angle * light.shadow.focus, 1.45)) : 1;
    shadow.normalBias = (2 * Math.min(away, radius) * wide * fields) / size;
  }
  camera.updateProjectionMatrix();
}

/** More lamps than this would make every surface of the stage slow; those that count most are taken. */
const most = 12;

/** How many of them cast shadows while working. */
const mostShadows = 2;

/** The scene's lamps on the stage. */
export class Lamplight {
  readonly group = new Group();
  private key = '';

  /** Follows the lamps; tells how many are left out. */
  place(lamps: LampReading[], origin: Vector3, sphere: Sphere): number {
    const lit = lamps.filter((lamp) => lamp.intensity > 0);
    const lux = new Map(lit.map((lamp) => [lamp, luxAt(lamp, origin, sphere)]));
    const kept = lit.length > most ? lit.toSorted((a, b) => lux.get(b)! - lux.get(a)!).slice(0, most) : lit;
    const dark = new Set(
      kept
        .filter((lamp) => lamp.shadow && lamp.type !== 'point')
        .toSorted((a, b) => lux.get(b)! - lux.get(a)!)
        .slice(0, mostShadows),
    );
    const key = kept.map((lamp) => `${lamp.type}${dark.has(lamp)}`).join();
    // The same kinds of lamps are kept, so that no surface has to be prepared anew.
    if (key !== this.key) {
      for (const light of this.group.children as Light[]) light.dispose();
      this.group.clear();
      for (const lamp of kept) this.group.add(shining(lamp));
      this.key = key;
    }
    kept.forEach((lamp, i) => {
      const light = this.group.children[i] as Shining;
      follow(light, lamp, origin);
      // Soft ones would be grainy in a single picture; stills have them.
      if (dark.has(lamp)) castAbout(light, sphere, 1536);
    });
    return lit.length - kept.length;
  }
}
