import { CommandsMenu } from '../tray/CommandsMenu';
import type { Stage } from '../../stage/stage';

/** All that is done with lamps by pressing somewhere, and with the light of the view. */
export function LampsMenu({ stage }: { stage: () => Stage | null }) {
  return (
    <CommandsMenu
      stage={stage}
      label="All lamps"
      means="Point lamps, put highlights, light the view"
      acts={['light.view', 'light.meter', 'light.solo', null, 'light.highlight', 'light.turn', 'light.focus']}
    />
  );
}
