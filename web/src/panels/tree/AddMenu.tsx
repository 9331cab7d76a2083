import { DropdownMenu } from 'radix-ui';
import { Plus } from 'lucide-react';
import { additions } from '../../commands/edit';
import { add, whereToAdd } from '../../state/building';
import { set, useStore, type AddWhere } from '../../state/store';

const places: { where: AddWhere; word: string; means: string }[] = [
  { where: 'child', word: 'inside', means: 'The new object rides on it' },
  { where: 'sibling', word: 'beside', means: 'The new object stands after it, on the same parent' },
  { where: 'parent', word: 'around', means: 'The new object carries it' },
];

/** Adds an object to each of the picked: inside, beside or around it. */
export function AddMenu() {
  const many = useStore((s) => s.selection.length);
  useStore((s) => s.addWhere);
  useStore((s) => s.lead);
  const where = whereToAdd();
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="btn">
        <Plus size={13} aria-hidden /> Add
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" align="end" sideOffset={4}>
          <DropdownMenu.RadioGroup
            value={where}
            onValueChange={(value) => set({ addWhere: value as AddWhere })}
            aria-label="Where it goes"
            className="flex items-center gap-1 px-2 pb-1"
          >
            <span className="text-ink-2">{many > 1 ? 'To each of them:' : many === 1 ? 'To it:' : 'At the top'}</span>
            {many > 0 &&
              places.map(({ where: w, word, means }) => (
                <DropdownMenu.RadioItem
                  key={w}
                  value={w}
                  title={means}
                  className={`word cursor-pointer ${w === where ? 'font-semibold text-plum' : ''}`}
                  onSelect={(e) => e.preventDefault()}
                >
                  {word}
                </DropdownMenu.RadioItem>
              ))}
          </DropdownMenu.RadioGroup>
          {additions.map(({ id, says, node }) => (
            <div key={id} role="presentation">
              {id === 'group' && <DropdownMenu.Separator className="menu-line" />}
              <div role="presentation" className="flex items-center">
                <DropdownMenu.Item className="menu-item flex-1" onSelect={() => add(node)}>
                  {says}
                </DropdownMenu.Item>
                {node.kind === 'shape' && (
                  <DropdownMenu.Item
                    className="menu-item text-ink-2"
                    aria-label={`Draw a ${says.toLowerCase()} by eye`}
                    title="Draw it on the stage: its footprint, then its height"
                    onSelect={() => set({ drawing: id })}
                  >
                    draw…
                  </DropdownMenu.Item>
                )}
              </div>
            </div>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
