import { DropdownMenu } from 'radix-ui';
import { useRef } from 'react';
import type { NodeAnswer } from '../../core/answers';
import { session } from '../../acts/session';
import { floating } from '../../controls/floating';
import { kinds } from '../../controls/constraintWords';
import { MenuItem } from '../../controls/MenuItem';
import { commandOf } from '../../commands';
import { bake, startDrive, startMount, startTie } from '../../commands/linking';
import { startPlan } from '../../acts/planning';
import { useStore } from '../../state/store';
import { EntryRow } from './EntryRow';
import { useReorder } from './reorder';

/** The constraints of the lead, each a link of the chain. */
export function Entries({ lead }: { lead: NodeAnswer }) {
  const id = lead.node.id;
  const entries = lead.node.constraints ?? [];
  const list = useRef<HTMLOListElement>(null);
  const { drag, grip } = useReorder(list, (from, to) =>
    session.keep({ do: 'setConstraint', of: [{ node: id, id: entries[from]!.id }], index: to }),
  );
  if (entries.length === 0) return null;
  const readings = session.core.linksOf(id);
  return (
    <ol ref={list} className="m-0 list-none p-0" aria-label="Constraints">
      {entries.map((entry, at) => (
        <EntryRow
          key={entry.id}
          node={id}
          entry={entry}
          reading={readings.find((r) => r.id === entry.id)}
          at={at}
          count={entries.length}
          grip={grip(at, entries.length)}
          drop={drag?.to === at ? (drag.to > drag.from ? 'after' : drag.to < drag.from ? 'before' : null) : null}
        />
      ))}
    </ol>
  );
}

/** What can be added to the chain, and done with all of it. */
export function ChainActs({ lead }: { lead: NodeAnswer }) {
  const entries = lead.node.constraints ?? [];
  const several = useStore((s) => s.selection.length > 1);
  const id = lead.node.id;
  return (
    <div className="mt-2 flex flex-wrap gap-1">
      <Menu word="Add a link…">
        {kinds.map((kind) => (
          <DropdownMenu.Item
            key={kind.kind}
            className="menu-item"
            title={kind.means}
            onSelect={() => setTimeout(() => startTie(kind.kind))}
          >
            {kind.word}
            {kind.looks ? ' …' : ''}
          </DropdownMenu.Item>
        ))}
        <DropdownMenu.Separator className="menu-line" />
        <Begin command="panAndTilt" word="Pan and tilt" act={startMount} />
        <Begin command="drive" word="Drive with a controller" act={startDrive} />
        <Begin command="turnTo" word="Turn to something, once" act={() => startTie('turnTo')} />
      </Menu>
      {entries.length > 0 && (
        <Menu word="All of them…">
          <MenuItem word="Bake" act={() => bake(id)} />
          <MenuItem word="Bake, left off" act={() => bake(id, { off: true })} />
          <MenuItem
            word="Switch off"
            off={entries.every((e) => !e.enabled)}
            act={() => switchAll(id, entries, false)}
          />
          <MenuItem word="Switch on" off={entries.every((e) => e.enabled)} act={() => switchAll(id, entries, true)} />
          <MenuItem word="Give them to the other picked" off={!several} act={() => startPlan({ kind: 'give' })} />
          <MenuItem word="Take off" act={() => session.keep({ do: 'unconstrain', of: [{ node: id }] })} />
        </Menu>
      )}
    </div>
  );
}

function Menu({ word, children }: { word: string; children: React.ReactNode }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="btn">{word}</DropdownMenu.Trigger>
      <DropdownMenu.Portal container={floating()}>
        <DropdownMenu.Content className="menu" align="start" collisionPadding={8}>
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** A command of the table that begins something in the sentence. */
function Begin({ command, word, act }: { command: string; word: string; act: () => void }) {
  const why = commandOf(command).not?.() ?? null;
  return (
    <DropdownMenu.Item
      className="menu-item"
      disabled={why !== null}
      {...(why === null ? {} : { title: why })}
      onSelect={() => setTimeout(act)}
    >
      {word}
    </DropdownMenu.Item>
  );
}

function switchAll(node: string, entries: readonly { id: string }[], enabled: boolean): void {
  session.keep({ do: 'setConstraint', of: entries.map((e) => ({ node, id: e.id })), enabled });
}
