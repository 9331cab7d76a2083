import { Vector3 } from 'three';
import type { Edit, LensPart, LensShape, Vec3 } from '../core/answers';
import { session } from '../acts/session';
import { get } from '../state/store';
import { Grips } from './grips';
import type { HandleSet } from './handleSet';
import { attributes, children, path } from './layer';

/** How far from the lamp or camera its lens is drawn, in pixels. */
const reach = 132;

/** How much an arrow key changes: degrees, or metres. */
const nudge = { angle: 1, length: 0.1 };

interface LensGrip {
  part: LensPart;
  angle: boolean;
}

/**
 * The lens of the lead on the stage: the cone and the range of a lamp, the angle of view of a camera, as thin lines with
 * open lozenges to take hold of. Where they stand and what a drag makes of them, the core says.
 */
export class LensHands extends Grips<LensGrip> {
  constructor(root: SVGSVGElement, handles: HandleSet) {
    super(root, handles, 'lens');
  }

  /** Draws the lens of the lead, if it has one and is not what is looked through. */
  draw(): void {
    const { lead } = get();
    if (!lead || (!lead.node.light && !lead.node.camera)) return;
    const { view, layer } = this.handles;
    const state = view.state();
    if (state.name === 'camera' && state.camera === lead.node.id) return;
    const { eye } = view;
    const { lines, grips } = this.shape(lead.node.id);
    const project = (p: Vec3) => eye.project(new Vector3(...p));
    const number = (v: number) => v.toFixed(1);
    let d = '';
    for (const line of lines) {
      let pen = 'M';
      for (const point of line) {
        const p = project(point);
        if (p) d += `${pen}${number(p.x)} ${number(p.y)}`;
        pen = p ? 'L' : 'M';
      }
    }
    path(layer.plain('lens', 'lens'), 'line', d);
    for (const { part, at, words, angle } of grips) {
      const c = project(at);
      if (!c) continue;
      const g = layer.button(`lens-${part}`, 'lens-grip', words);
      g.dataset['lens'] = part;
      g.dataset['angle'] = String(angle);
      g.toggleAttribute('data-held', this.held?.grip.part === part);
      const [hit] = children(g, 'circle', 1);
      hit!.setAttribute('class', 'hit-area');
      attributes(hit!, { cx: c.x, cy: c.y, r: 13 });
      path(g, 'sign', `M${number(c.x)} ${number(c.y - 6)}l6 6l-6 6l-6 -6z`);
      if (this.held?.grip.part === part)
        layer.label(layer.plain('lens-words', 'reading'), words, { x: c.x + 14, y: c.y + 12 }, eye.width);
    }
  }

  private shape(id: string): LensShape {
    const { eye } = this.handles.view;
    return session.core.lensShape(id, eye.world(), eye.parallel, this.size());
  }

  /** How long the lens is drawn, in metres at the lead. */
  private size(): number {
    const at = get().lead?.pivotInWorld ?? [0, 0, 0];
    return this.handles.view.eye.pixel(new Vector3(...at)) * reach;
  }

  protected gripOf({ dataset }: SVGGElement): LensGrip {
    return { part: dataset['lens'] as LensPart, angle: dataset['angle'] === 'true' };
  }

  protected turns({ angle }: LensGrip): boolean {
    return angle;
  }

  protected edited({ part }: LensGrip, ray: number[], step: number): Edit | null {
    const id = get().lead?.node.id;
    const { eye } = this.handles.view;
    return id ? session.core.lensTo(id, part, eye.world(), eye.parallel, this.size(), ray, step) : null;
  }

  protected override tried({ part }: LensGrip): void {
    const id = get().lead?.node.id;
    const grip = id && this.shape(id).grips.find((g) => g.part === part);
    if (grip) session.say({ kind: 'info', text: `${grip.words}. Let go to keep it, Esc puts it back.` });
  }

  protected nudged({ part, angle }: LensGrip, way: number, more: boolean): Edit {
    const by = way * (angle ? nudge.angle : nudge.length) * (more ? 10 : 1);
    const nodes = [get().lead!.node.id];
    return part === 'fov' || part === 'height'
      ? { do: 'setCamera', nodes, [part]: by, mode: 'add' }
      : { do: 'setLight', nodes, [part]: by, mode: 'add' };
  }
}
