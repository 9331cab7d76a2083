import type { ComponentType, ReactNode } from 'react';
import { commandOf, keysOf, run } from '../commands';
import { labelOf } from '../commands/chords';
import type { Stage } from '../stage/stage';
import { useStore } from '../state/store';

const withNothing = [['pick.all', 'view.frameAll', 'allOn'], ['find']];

const withPicked = [
  ['view.frame', 'pick.parent', 'pick.children', 'pick.kind', 'pick.rest'],
  ['rename', 'off', 'final', 'lock', 'isolate'],
  ['under', 'out', 'group', 'ungroup', 'copies'],
  ['lookAt', 'turnTo', 'panAndTilt', 'giveLinks', 'drive'],
  ['normals.facets', 'normals.smooth', 'normals.asMade'],
  ['unshare', 'collection.new'],
  ['remove', 'find'],
];

/** What a right press offers, on the stage and in the tree: adding with nothing picked, else what fits what is picked. */
export function ContextItems({
  stage,
  Item,
  Separator,
}: {
  stage: Stage;
  Item: ComponentType<{
    className?: string;
    onSelect?: (event: Event) => void;
    disabled?: boolean;
    title?: string;
    children?: ReactNode;
  }>;
  Separator: ComponentType<{ className?: string }>;
}) {
  const selection = useStore((s) => s.selection);
  const camera = useStore((s) => s.byId.get(s.selection.at(-1) ?? '')?.kind === 'camera');
  const groups = selection.length === 0 ? withNothing : camera ? [['view.camera'], ...withPicked] : withPicked;
  return groups.map((group, i) => (
    <div key={group[0]} role="presentation">
      {i > 0 && <Separator className="menu-line" />}
      {group.map(commandOf).map((command) => {
        const not = command.not?.() ?? null;
        return (
          <Item
            key={command.id}
            className="menu-item"
            disabled={not !== null}
            {...(not === null ? {} : { title: not })}
            onSelect={() => setTimeout(() => run(command, stage))}
          >
            {command.says}
            <span className="ml-auto pl-6 font-mono text-[11px] text-ink-2">
              {keysOf(command)[0] && labelOf(keysOf(command)[0]!)}
            </span>
          </Item>
        );
      })}
    </div>
  ));
}
