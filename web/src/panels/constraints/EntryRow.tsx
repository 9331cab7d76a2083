import { ChevronDown, ChevronRight, GripVertical, MoreHorizontal, X } from 'lucide-react';
import { DropdownMenu, Switch } from 'radix-ui';
import { useState } from 'react';
import type { Constraint, LinkReading } from '../../core/answers';
import { session } from '../../acts/session';
import { bake } from '../../commands/linking';
import { floating } from '../../controls/floating';
import { CheatCorner } from '../../controls/CheatCorner';
import { MenuItem } from '../../controls/MenuItem';
import { Name } from '../../controls/Name';
import { EntryWords, type Fields } from './EntryWords';
import { leaveEffect, showEffect } from './effect';
import { LinkFigures } from './LinkFigures';
import type { Grip } from './reorder';
import { Weight } from './Weight';
import { onRenewal } from '../../state/renewal';

interface Props {
  node: string;
  entry: Constraint;
  reading: LinkReading | undefined;
  at: number;
  count: number;
  grip: Grip;
  /** Where one that is dragged here would go. */
  drop: 'before' | 'after' | null;
}

const opened = new Set<string>();

/** One constraint: whether it is on, how far it pulls, what it does now, its words, and what it warns of. */
export function EntryRow({ node, entry, reading, at, count, grip, drop }: Props) {
  const key = `${node} ${entry.id}`;
  const [open, setOpen] = useState(() => opened.has(key));
  const of = [{ node, id: entry.id }];
  const change = (fields: Fields) => session.keep({ do: 'setConstraint', of, ...fields });
  const title = reading?.title ?? entry.kind;
  const flip = () => {
    if (open) opened.delete(key);
    else opened.add(key);
    setOpen(!open);
  };
  const edge = drop === 'before' ? 'border-t-2 border-t-plum' : drop === 'after' ? 'border-b-2 border-b-plum' : '';
  return (
    <li className={`py-1 ${edge}`} aria-label={title}>
      <div
        className="flex items-center gap-1"
        onPointerEnter={() => showEffect(node, entry)}
        onPointerLeave={leaveEffect}
      >
        <Switch.Root
          checked={entry.enabled}
          onCheckedChange={(enabled) => {
            leaveEffect();
            change({ enabled });
          }}
          aria-label={`${title} on`}
          title={entry.enabled ? 'On: a press switches it off' : 'Off: a press switches it on'}
          className="relative z-10 -ml-[7px] grid h-6 w-6 shrink-0 place-items-center rounded-full"
        >
          <span
            aria-hidden
            className={`block h-3 w-3 rounded-full border-2 ${entry.enabled ? 'border-plum bg-plum' : 'border-edge bg-paper'}`}
          />
        </Switch.Root>
        <span className="relative h-6 w-0">
          <CheatCorner channel={`constraint:${entry.id}.enabled`} />
        </span>
        <button
          type="button"
          className={`flex min-w-0 flex-1 items-center gap-1 rounded text-left hover:text-plum ${entry.enabled ? 'font-semibold' : 'text-ink-2'}`}
          aria-expanded={open}
          aria-label={`${title}: its words`}
          onClick={flip}
        >
          <Name text={title} />
          {open ? <ChevronDown size={12} aria-hidden /> : <ChevronRight size={12} aria-hidden />}
        </button>
        <DropdownMenu.Root modal={false}>
          <DropdownMenu.Trigger className="entry-act" aria-label={`More for ${title}`}>
            <MoreHorizontal size={14} aria-hidden />
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal container={floating()}>
            <DropdownMenu.Content className="menu" align="end" collisionPadding={8}>
              {entry.target !== undefined && (
                <MenuItem word="Pick the target" act={() => session.select([entry.target!])} />
              )}
              <MenuItem word="Bake up to here" act={() => bake(node, { upTo: entry.id })} />
              <MenuItem word="Bake up to here, left off" act={() => bake(node, { upTo: entry.id, off: true })} />
              <MenuItem word="Earlier" off={at === 0} act={() => change({ index: at - 1 })} />
              <MenuItem word="Later" off={at === count - 1} act={() => change({ index: at + 1 })} />
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        {count > 1 && (
          <button
            type="button"
            className="entry-act cursor-grab touch-none"
            aria-label={`Order of ${title}`}
            title="Drag to change the order; arrow keys do, too"
            {...grip}
          >
            <GripVertical size={14} aria-hidden />
          </button>
        )}
        <button
          type="button"
          className="entry-act"
          aria-label={`Take off ${title}`}
          title="Take it off"
          onClick={() => {
            leaveEffect();
            session.keep({ do: 'unconstrain', of });
          }}
        >
          <X size={14} aria-hidden />
        </button>
      </div>
      {reading?.warning && (
        <p className="m-0 mt-1 ml-5 text-warning" role="note">
          △ {reading.warning}
        </p>
      )}
      <div className="ml-5 flex items-center gap-2">
        {reading && <LinkFigures wide node={node} reading={reading} />}
        <Weight
          channel={`constraint:${entry.id}.weight`}
          label={`Weight of ${title}`}
          value={entry.weight}
          edit={(weight) => ({ do: 'setConstraint', of, weight })}
        />
      </div>
      {open && (
        <div className="ml-5">
          <EntryWords node={node} entry={entry} change={change} />
        </div>
      )}
    </li>
  );
}

onRenewal(() => opened.clear());
