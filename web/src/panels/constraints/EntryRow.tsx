import { MoreHorizontal, X } from 'lucide-react';
import { DropdownMenu, Switch } from 'radix-ui';
import type { Constraint, LinkReading } from '../../core/answers';
import { session } from '../../acts/session';
import { floating } from '../../controls/floating';
import { MenuItem } from '../../controls/MenuItem';
import { Name } from '../../controls/Name';
import { angle, factor, length } from '../../controls/numbers';
import { useStore } from '../../state/store';
import { Weight } from './Weight';
import { EntryWords, type Fields } from './EntryWords';

interface Props {
  node: string;
  entry: Constraint;
  reading: LinkReading | undefined;
  at: number;
  count: number;
}

/** One constraint: whether it is on, how far it pulls, what it does now, its words, and what it warns of. */
export function EntryRow({ node, entry, reading, at, count }: Props) {
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  const of = [{ node, id: entry.id }];
  const change = (fields: Fields) => session.keep({ do: 'setConstraint', of, ...fields });
  const title = reading?.title ?? entry.kind;
  return (
    <li className="border-t border-line py-2 first:border-t-0 first:pt-0" aria-label={title}>
      <div className="flex items-center gap-2">
        <Switch.Root
          checked={entry.enabled}
          onCheckedChange={(enabled) => change({ enabled })}
          aria-label={`${title} on`}
          className="grid h-6 w-6 shrink-0 place-items-center rounded-full"
        >
          <span
            aria-hidden
            className={`block h-3 w-3 rounded-full border-2 ${entry.enabled ? 'border-plum bg-plum' : 'border-edge'}`}
          />
        </Switch.Root>
        <button
          type="button"
          className={`flex min-w-0 flex-1 rounded text-left hover:text-plum ${entry.enabled ? 'font-semibold' : 'text-ink-2'}`}
          title={entry.target === undefined ? title : 'Pick the target'}
          disabled={entry.target === undefined}
          onClick={() => entry.target !== undefined && session.select([entry.target])}
        >
          <Name text={title} />
        </button>
        <DropdownMenu.Root modal={false}>
          <DropdownMenu.Trigger
            className="grid h-6 w-6 shrink-0 place-items-center rounded text-ink-2 hover:text-plum"
            aria-label={`More for ${title}`}
          >
            <MoreHorizontal size={14} aria-hidden />
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal container={floating()}>
            <DropdownMenu.Content className="menu" align="end" collisionPadding={8}>
              <MenuItem
                word="Bake up to here"
                act={() => session.keep({ do: 'bake', nodes: [node], upTo: entry.id })}
              />
              <MenuItem
                word="Bake up to here, left off"
                act={() => session.keep({ do: 'bake', nodes: [node], upTo: entry.id, off: true })}
              />
              <MenuItem word="Earlier" off={at === 0} act={() => change({ index: at - 1 })} />
              <MenuItem word="Later" off={at === count - 1} act={() => change({ index: at + 1 })} />
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        <button
          type="button"
          className="grid h-6 w-6 shrink-0 place-items-center rounded text-ink-2 hover:text-plum"
          aria-label={`Take off ${title}`}
          title="Take it off"
          onClick={() => session.keep({ do: 'unconstrain', of })}
        >
          <X size={14} aria-hidden />
        </button>
      </div>
      <p className="m-0 ml-8 font-mono text-[11px] text-ink-2" aria-label="Does now">
        {reading && does(reading, unit)}
      </p>
      {reading?.warning && (
        <p className="m-0 mt-1 text-warning" role="note">
          {reading.warning}
        </p>
      )}
      <div className="mt-1 flex items-center gap-2">
        <span className="w-[72px] shrink-0 text-ink-2">Weight</span>
        <Weight
          label={`Weight of ${title}`}
          value={entry.weight}
          edit={(weight) => ({ do: 'setConstraint', of, weight })}
        />
      </div>
      <EntryWords node={node} entry={entry} change={change} />
    </li>
  );
}

/** What it adds at the moment, in figures. */
function does(reading: LinkReading, unit: string): string {
  const parts = [
    ...(reading.turned > 1e-6 ? [`turns ${angle(reading.turned)}°`] : []),
    ...(reading.moved > 1e-9 ? [`moves ${length(reading.moved, unit)} ${unit}`] : []),
    ...(Math.abs(reading.scaled - 1) > 1e-9 ? [`size × ${factor(reading.scaled)}`] : []),
  ];
  return parts.length ? parts.join(' · ') : 'changes nothing now';
}
