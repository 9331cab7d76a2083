import { lampsPicked, meter, noLamp } from '../acts/lamps';
import { again, makeStill, noStill, sendStills, stillPlan } from '../acts/stills';
import { session } from '../acts/session';
import { get, set } from '../state/store';
import type { Command } from './command';
import { arrange } from './page';
import { startPicking } from './placing';
import { shade } from './looking';

const noCamera = () =>
  get().selection.some((id) => get().byId.get(id)?.kind === 'camera') ? null : 'No camera is picked. Pick one first.';

/** Commands about lamps, the light of the scene, and stills. */
export const lightCommands: Command[] = [
  {
    id: 'light.view',
    group: 'View',
    says: 'Light the view by the scene’s lamps, or as before',
    also: 'render preview lit shading exposure',
    keys: ['Shift+h'],
    act: (stage) => {
      const { views, active } = get();
      shade(stage, views[active]!.shading === 'lamps' ? 'clay' : 'lamps');
    },
  },
  {
    id: 'light.highlight',
    group: 'Edit',
    says: 'Put the highlight of the lamp where it is pressed',
    also: 'reflection specular mirror light',
    keys: [],
    not: noLamp,
    act: () => startPicking('highlight'),
  },
  {
    id: 'light.turn',
    group: 'Edit',
    says: 'Turn what is picked to a point that is pressed',
    also: 'aim point look at target lamp',
    keys: [],
    not: () => (get().selection.length === 0 ? 'Nothing is picked.' : null),
    act: () => startPicking('turnTo'),
  },
  {
    id: 'light.focus',
    group: 'Edit',
    says: 'Let the camera be sharp at a thing that is pressed',
    also: 'focus depth of field dof blur',
    keys: [],
    not: noCamera,
    act: () => startPicking('focus'),
  },
  {
    id: 'light.meter',
    group: 'Scene',
    says: 'Set the exposure by this view',
    also: 'brightness auto',
    keys: [],
    act: meter,
  },
  {
    id: 'light.solo',
    group: 'View',
    says: 'Light by the picked lamps alone, or by all again',
    also: 'only isolate',
    keys: [],
    not: () => (get().soloLamps.length > 0 ? null : noLamp()),
    act: (stage) => {
      set({ soloLamps: get().soloLamps.length > 0 ? [] : lampsPicked() });
      stage.draw();
    },
  },
  {
    id: 'light.drawer',
    group: 'Page',
    says: 'Open the drawer of lamps',
    also: 'tray lights surroundings exposure environment',
    keys: [],
    act: () => {
      arrange({ tray: true });
      set({ drawer: 'lamps' });
    },
  },
  {
    id: 'still.make',
    group: 'Scene',
    says: 'Make a still…',
    also: 'render image picture png',
    keys: [],
    act: () => set({ open: 'stillMake' }),
  },
  {
    id: 'still.quick',
    group: 'Scene',
    says: 'Make a quick still of the current shot',
    also: 'render image picture png',
    keys: [],
    not: () => noStill('shot'),
    act: () => {
      const plan = stillPlan({ ...get().stillAs, of: 'shot', passes: 1 });
      if (plan) void makeStill(plan);
    },
  },
  {
    id: 'still.again',
    group: 'Scene',
    says: 'Make the last still again',
    also: 'render repeat',
    keys: [],
    not: () =>
      get().stills.length === 0
        ? 'No still has been made yet.'
        : get().making
          ? 'A still is being made already.'
          : null,
    act: () => again(get().stills.at(-1)!),
  },
  {
    id: 'still.zip',
    group: 'Scene',
    says: 'Download the stills of all shots',
    also: 'render export zip images',
    keys: [],
    not: () =>
      get().shots.length === 0
        ? 'There are no shots yet. Make one first.'
        : get().making
          ? 'A still is being made. Wait for it.'
          : null,
    act: () => void session.guarded(sendStills),
  },
  {
    id: 'still.drawer',
    group: 'Page',
    says: 'Open the drawer of stills',
    also: 'tray renders images',
    keys: [],
    act: () => {
      arrange({ tray: true });
      set({ drawer: 'stills' });
    },
  },
];
