import { cameraFromView } from '../acts/cameras';
import { session } from '../acts/session';
import { get, set, type ViewName } from '../state/store';
import { shadings } from '../state/shadings';
import type { Stage } from '../stage/stage';
import type { Command } from './command';

export const viewNames: Record<ViewName, string> = {
  free: 'Free view',
  front: 'Front',
  back: 'Back',
  right: 'Right',
  left: 'Left',
  top: 'Top',
  bottom: 'Bottom',
  camera: 'Camera',
};

const sides = ['front', 'back', 'right', 'left', 'top', 'bottom'] as const;

/** Commands that change how the scene is looked at, and nothing in it. */
export const viewCommands: Command[] = [
  {
    id: 'view.frame',
    group: 'View',
    says: 'Frame what is picked',
    also: 'focus zoom to selected',
    keys: ['v'],
    act: (stage) => stage.frame(get().selection.length > 0 ? get().selection : null, true),
  },
  {
    id: 'view.frameAll',
    group: 'View',
    says: 'Frame everything',
    also: 'zoom fit all',
    keys: ['Shift+v'],
    act: (stage) => stage.frame(null, true),
  },
  ...sides.map((side, i): Command => ({
    id: `view.${side}`,
    group: 'View',
    says: `View from ${side === 'front' || side === 'back' ? `the ${side}` : side === 'top' ? 'the top' : side === 'bottom' ? 'below' : `the ${side}`}`,
    also: `${side} orthographic`,
    keys: [`Shift+${i + 1}`],
    act: (stage) => stage.show(side),
  })),
  {
    id: 'view.parallel',
    group: 'View',
    says: 'Perspective or parallel',
    also: 'orthographic projection',
    keys: ['Shift+7'],
    act: (stage) => stage.toggleParallel(),
  },
  {
    id: 'view.four',
    group: 'View',
    says: 'One view or four',
    also: 'quad layout maximise viewport',
    keys: ['Shift+8'],
    // Of four, the one under the pointer is shown alone.
    act: (stage) =>
      get().layout === 'one'
        ? stage.arrange('four')
        : stage.arrange('one', stage.underPointer()?.index ?? get().active),
  },
  {
    id: 'view.free',
    group: 'View',
    says: 'Free view',
    also: 'perspective user',
    keys: ['Shift+9'],
    act: (stage) => stage.show('free'),
  },
  {
    id: 'view.camera',
    group: 'View',
    says: 'Look through a camera, or leave it',
    also: 'camera view',
    keys: ['Shift+0'],
    not: () => (get().rows.some((r) => r.kind === 'camera') ? null : 'There is no camera in this scene.'),
    act: (stage) => lookThrough(stage),
  },
  {
    id: 'camera.here',
    group: 'View',
    says: 'Add a camera from this view',
    also: 'new create camera to view',
    keys: [],
    act: () => cameraFromView(),
  },
  {
    id: 'view.steer',
    group: 'View',
    says: 'Steer the camera by navigating, or stop',
    also: 'lock camera to view fly',
    keys: [],
    not: () => (get().views[get().active]!.name === 'camera' ? null : 'No camera is looked through.'),
    act: () => steer(!get().views[get().active]!.steering),
  },
  {
    id: 'view.start',
    group: 'View',
    says: 'Back to the view’s start',
    also: 'home reset view',
    keys: ['Home'],
    act: (stage) => stage.toStart(),
  },
  ...(
    [
      ['orbit.left', 'Turn the view to the left', 'Shift+ArrowLeft', (stage) => stage.navigate('orbit', 24, 0)],
      ['orbit.right', 'Turn the view to the right', 'Shift+ArrowRight', (stage) => stage.navigate('orbit', -24, 0)],
      ['orbit.up', 'Turn the view up', 'Shift+ArrowUp', (stage) => stage.navigate('orbit', 0, 24)],
      ['orbit.down', 'Turn the view down', 'Shift+ArrowDown', (stage) => stage.navigate('orbit', 0, -24)],
      ['pan.left', 'Move the view to the left', 'Alt+Shift+ArrowLeft', (stage) => stage.navigate('pan', 48, 0)],
      ['pan.right', 'Move the view to the right', 'Alt+Shift+ArrowRight', (stage) => stage.navigate('pan', -48, 0)],
      ['pan.up', 'Move the view up', 'Alt+Shift+ArrowUp', (stage) => stage.navigate('pan', 0, 48)],
      ['pan.down', 'Move the view down', 'Alt+Shift+ArrowDown', (stage) => stage.navigate('pan', 0, -48)],
      ['nearer', 'Come nearer', 'Shift+PageUp', (stage) => stage.navigate('dolly', 0, 30)],
      ['further', 'Go further away', 'Shift+PageDown', (stage) => stage.navigate('dolly', 0, -30)],
    ] as [string, string, string, (stage: Stage) => void][]
  ).map(([id, says, key, act]): Command => ({
    id: `view.${id}`,
    group: 'View',
    says,
    also: 'orbit pan dolly zoom navigate keyboard',
    keys: [key],
    act,
  })),
  {
    id: 'view.previous',
    group: 'View',
    says: 'Previous view',
    also: 'undo view',
    keys: ['['],
    act: (stage) => stage.stepView(-1),
  },
  {
    id: 'view.next',
    group: 'View',
    says: 'Next view',
    also: 'redo view',
    keys: [']'],
    act: (stage) => stage.stepView(1),
  },
  ...shadings.map(({ shading, word, means }): Command => ({
    id: `shade.${shading}`,
    group: 'View',
    says: `Shade the view: ${word}`,
    also: `${means} shading display wireframe x-ray textured material`,
    keys: [],
    act: (stage) => shade(stage, shading),
  })),
];

export function shade(stage: Stage, shading: (typeof shadings)[number]['shading'], index = get().active): void {
  set({ views: get().views.map((v, i) => (i === index ? { ...v, shading } : v)) });
  stage.draw();
}

/** The picked camera, else the one looked through last, else the first; again: leave it. */
export function lookThrough(stage: Stage): void {
  const { selection, byId, rows, views, active } = get();
  const picked = selection.findLast((id) => byId.get(id)?.kind === 'camera');
  const now = views[active]!;
  if (now.name === 'camera' && (picked === undefined || picked === now.camera)) stage.show('free');
  else {
    const camera = picked ?? rows.find((r) => r.kind === 'camera')?.id;
    if (camera) stage.through(camera);
  }
}

/** Navigating moves the camera, or does not; said in the sentence, since it never happens by accident. */
export function steer(on: boolean): void {
  const { views, active, byId } = get();
  const name = byId.get(views[active]!.camera ?? '')?.name ?? 'the camera';
  set({ views: views.map((v, i) => (i === active ? { ...v, steering: on } : v)) });
  session.say({
    kind: on ? 'warning' : 'info',
    text: on
      ? `Navigating now moves ${name}. Press “Stop steering” to leave it where it is.`
      : `${name} stays where it is; navigating leaves it.`,
  });
}
