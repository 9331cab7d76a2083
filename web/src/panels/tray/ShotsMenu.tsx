import type { Stage } from '../../stage/stage';
import { CommandsMenu } from './CommandsMenu';

const acts: (string | null)[] = [
  'shot.run',
  'shot.seen',
  'shot.compare',
  'shot.sheet',
  null,
  'frame.pick',
  'frame.pickAll',
  'frame.collect',
  'frame.only',
  null,
  'shot.renumber',
  'shot.read',
  'shot.csv',
  'shot.otio',
  'shot.pictures',
  'shot.file',
];

/** All that is done with the shots together. */
export function ShotsMenu({ stage }: { stage: () => Stage | null }) {
  return (
    <CommandsMenu stage={stage} label="All shots" means="Run through, table, comparison, lists and files" acts={acts} />
  );
}
