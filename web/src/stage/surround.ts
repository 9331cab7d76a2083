import { Color, NeutralToneMapping, NoToneMapping, type Scene, type WebGLRenderer } from 'three';
import type { SurroundingsAnswer } from '../core/answers';
import { Sky } from './sky';

/** So many are kept, beside those that are held: what the views show, and what the last pictures of shots did. */
const most = 3;

/** What scenes are lit by from all sides: each is made once, also where the views and pictures of shots go by others in turn. */
export class Surround {
  /** The one that was asked for last comes last. */
  private readonly skies = new Map<string, { sky: Sky; held: number }>();

  constructor(
    private readonly fetchPicture: (hash: string) => Promise<ImageBitmap | null>,
    private readonly came: () => void,
  ) {}

  /** What stands for surroundings now; a picture comes a moment later. */
  of(s: SurroundingsAnswer): Sky {
    return this.take(s).sky;
  }

  /** The same, there until it is let go. */
  hold(s: SurroundingsAnswer): { sky: Sky; letGo: () => void } {
    const kept = this.take(s);
    kept.held++;
    return { sky: kept.sky, letGo: () => void kept.held-- };
  }

  dispose(): void {
    for (const { sky } of this.skies.values()) sky.dispose();
    this.skies.clear();
  }

  private take(s: SurroundingsAnswer) {
    const picture = s.style === 'picture' ? s.picture : null;
    const key = `${picture} ${s.color} ${s.style === 'sky' ? s.ground : s.color}`;
    let kept = this.skies.get(key);
    if (!kept) {
      kept = { sky: new Sky(s, picture ? this.fetchPicture(picture) : null), held: 0 };
      if (picture) void kept.sky.ready.then(this.came);
    } else this.skies.delete(key);
    this.skies.set(key, kept);
    const unheld = [...this.skies].filter(([, one]) => one.held === 0 && one !== kept);
    for (const [old, { sky }] of unheld.slice(0, Math.max(0, unheld.length + 1 - most))) {
      sky.dispose();
      this.skies.delete(old);
    }
    return kept;
  }
}

/** Lets a scene be drawn by its surroundings and exposure; the answer makes it as it was. */
export function asPicture(
  renderer: WebGLRenderer,
  scene: Scene,
  surround: Surround,
  s: SurroundingsAnswer,
  behind = true,
): () => void {
  const { background } = scene;
  surround.of(s).light(scene, s, behind && s.behind);
  if (behind && !s.behind) scene.background = new Color(0);
  renderer.toneMapping = NeutralToneMapping;
  renderer.toneMappingExposure = 2 ** s.exposure;
  return () => {
    scene.background = background;
    scene.environment = null;
    renderer.toneMapping = NoToneMapping;
  };
}
