import type { ShotReading } from '../../wire/bridgeTypes';
import { download } from '../../acts/longWork';
import { startRun } from '../../acts/playing';
import { enterShot, ownCamera, viewToShot } from '../../acts/shots';
import { session } from '../../acts/session';
import type { CardAct } from '../../controls/CardMenu';
import type { Stage } from '../../stage/stage';
import { get, set } from '../../state/store';

/** What can be done with a shot, for its menus; nothing: a line between. */
export function shotActs(shot: ShotReading, stage: () => Stage | null): CardAct[] {
  const { id, camera, frames } = shot;
  const half = Math.floor(frames / 2);
  return [
    { word: 'Arrange in it', act: () => enterShot(id) },
    {
      word: 'Look through its camera',
      off: shot.cameraNote !== null,
      act: () => camera !== null && stage()?.through(camera),
    },
    { word: 'Pick its camera', off: shot.cameraNote !== null, act: () => camera !== null && session.select([camera]) },
    { word: 'Make it the present view', act: () => viewToShot(id) },
    { word: 'Give it a camera of its own', off: shot.cameraNote !== null, act: () => ownCamera(id) },
    null,
    {
      word: 'Run through from here',
      act: () => {
        enterShot(id);
        startRun();
      },
    },
    {
      word: 'Compare with the scene',
      act: () => set({ comparing: { ...get().comparing, a: id, b: null }, open: 'compare' }),
    },
    { word: 'Export it alone as glTF', act: () => void session.guarded(() => download('glb', id)) },
    null,
    { word: 'Copy', act: () => session.keep({ do: 'copyShot', shot: id }) },
    {
      word: `Split in the middle, after ${half} ${half === 1 ? 'frame' : 'frames'}`,
      off: half < 1,
      act: () => session.keep({ do: 'copyShot', shot: id, splitAt: half }),
    },
    {
      word: 'Take back all that it has of its own',
      off: shot.cheats === 0,
      act: () => session.keep({ do: 'takeBack', shot: id }),
    },
    null,
    { word: 'Remove', act: () => session.keep({ do: 'removeShot', id }) },
  ];
}
