import { CommandsMenu } from '../tray/CommandsMenu';
import type { Stage } from '../../stage/stage';

/** All that is done with stills together. */
export function StillsMenu({ stage }: { stage: () => Stage | null }) {
  return (
    <CommandsMenu
      stage={stage}
      label="All stills"
      means="Make stills, and download them"
      acts={['still.make', 'still.quick', 'still.again', null, 'still.zip']}
    />
  );
}
