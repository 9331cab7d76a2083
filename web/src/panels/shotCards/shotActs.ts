import type { ShotReading } from '../../wire/bridgeTypes';
import { enterShot, viewToShot } from '../../acts/shots';
import { session } from '../../acts/session';
import type { Stage } from '../../stage/stage';

/** What can be done with a shot, for its menus; nothing: a line between. */
export function shotActs(
  shot: ShotReading,
  stage: () => Stage | null,
): ({ word: string; act: () => void; off?: boolean } | null)[] {
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
