import { DropdownMenu } from 'radix-ui';
import { floating } from '../../controls/floating';
import { ListFilter } from 'lucide-react';
import { filterTree } from '../../acts/isolating';
import { session } from '../../acts/session';
import { settingsOf, type TreeShows } from '../../state/settings';
import { noFilter, useStore, type TreeFilter } from '../../state/store';

const kinds: { kind: TreeFilter['kind']; word: string }[] = [
  { kind: 'all', word: 'All kinds' },
  { kind: 'shape', word: 'Shapes' },
  { kind: 'mesh', word: 'Meshes' },
  { kind: 'group', word: 'Groups' },
  { kind: 'light', word: 'Lamps' },
  { kind: 'camera', word: 'Cameras' },
];

const states: { only: TreeFilter['only']; word: string }[] = [
  { only: 'all', word: 'Seen or not' },
  { only: 'hidden', word: 'Hidden' },
  { only: 'locked', word: 'Locked' },
  { only: 'sharing', word: 'Sharing a shape' },
];

const switches: [keyof TreeShows, string][] = [
  ['working', 'Switches of the working view'],
  ['final', 'Switches of the final picture'],
  ['locked', 'Locks'],
];

/** What the tree leaves out: by text, kind, state and collection. */
export function TreeFilters() {
  const filter = useStore((s) => s.treeFilter);
  const collections = useStore((s) => s.collections);
  const colors = useStore((s) => s.settings.collectionColors === true);
  const shows = settingsOf(useStore((s) => s.settings)).treeShows;
  const marked = filter.kind !== 'all' || filter.only !== 'all' || filter.collection !== null;
  return (
    <div className="flex items-center gap-1 px-2 pb-1" role="search" aria-label="Filter of the tree">
      <input
        className="field min-w-0 flex-1 text-left font-sans"
        aria-label="Text of the filter"
        placeholder="Only names with…"
        value={filter.text}
        onChange={(e) => filterTree({ text: e.target.value })}
        onKeyDown={(e) => {
          if (e.key === 'Escape') filterTree(null);
          e.stopPropagation();
        }}
      />
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className={`btn px-1.5 ${marked ? 'border-plum text-plum' : ''}`} aria-label="Which rows">
          <ListFilter size={13} aria-hidden />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal container={floating()}>
          <DropdownMenu.Content className="menu" align="end">
            <Choices
              value={filter.kind}
              options={kinds.map(({ kind, word }) => [kind, word])}
              change={(kind) => filterTree({ kind: kind as TreeFilter['kind'] })}
            />
            <DropdownMenu.Separator className="menu-line" />
            <Choices
              value={filter.only}
              options={states.map(({ only, word }) => [only, word])}
              change={(only) => filterTree({ only: only as TreeFilter['only'] })}
            />
            {collections.length > 0 && (
              <>
                <DropdownMenu.Separator className="menu-line" />
                <Choices
                  value={filter.collection ?? ''}
                  options={[
                    ['', 'In any collection or none'],
                    ...collections.map((c): [string, string] => [c.id, `In ${c.name}`]),
                  ]}
                  change={(id) => filterTree({ collection: id === '' ? null : id })}
                />
                <DropdownMenu.Separator className="menu-line" />
                <DropdownMenu.CheckboxItem
                  className="menu-item"
                  checked={colors}
                  onSelect={() => session.saveSettings({ collectionColors: !colors })}
                >
                  <span className="w-3 text-plum">{colors ? '✓' : ''}</span>Members in the colours of their collections
                </DropdownMenu.CheckboxItem>
              </>
            )}
            <DropdownMenu.Separator className="menu-line" />
            {switches.map(([which, word]) => (
              <DropdownMenu.CheckboxItem
                key={which}
                className="menu-item"
                checked={shows[which]}
                onSelect={() => session.saveSettings({ treeShows: { ...shows, [which]: !shows[which] } })}
              >
                <span className="w-3 text-plum">{shows[which] ? '✓' : ''}</span>
                {word}
              </DropdownMenu.CheckboxItem>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {filter !== noFilter && (
        <button type="button" className="btn" onClick={() => filterTree(null)}>
          All
        </button>
      )}
    </div>
  );
}

function Choices(props: { value: string; options: [string, string][]; change: (value: string) => void }) {
  return (
    <DropdownMenu.RadioGroup value={props.value} onValueChange={props.change}>
      {props.options.map(([value, word]) => (
        <DropdownMenu.RadioItem key={value} value={value} className="menu-item">
          <span className="w-3 text-plum" aria-hidden>
            {value === props.value ? '●' : ''}
          </span>
          {word}
        </DropdownMenu.RadioItem>
      ))}
    </DropdownMenu.RadioGroup>
  );
}
