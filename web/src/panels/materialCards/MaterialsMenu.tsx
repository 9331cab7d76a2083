import { CommandsMenu } from '../tray/CommandsMenu';
import type { Stage } from '../../stage/stage';

const acts = [
  'material.new',
  'material.copy',
  'material.take',
  null,
  'material.picked',
  'material.merge',
  'material.clear',
];

/** All that is done with the materials together. */
export function MaterialsMenu({ stage }: { stage: () => Stage | null }) {
  return <CommandsMenu stage={stage} label="All materials" means="Make, take, merge and clear materials" acts={acts} />;
}
