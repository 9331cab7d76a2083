import { DropdownMenu } from 'radix-ui';
import { MoreHorizontal } from 'lucide-react';
import { commandOf, hint, run } from '../../commands';
import { floating } from '../../controls/floating';
import type { Stage } from '../../stage/stage';

/** A menu of commands, the same as by key and in Find anything. */
export function CommandsMenu(props: {
  stage: () => Stage | null;
  label: string;
  means: string;
  /** Ids of commands; null: a line. */
  acts: (string | null)[];
}) {
  const { stage, label, means, acts } = props;
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        className="grid h-7 w-7 place-items-center rounded-lg text-ink-2 hover:text-plum"
        aria-label={label}
        title={means}
      >
        <MoreHorizontal size={15} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={floating()}>
        <DropdownMenu.Content className="menu" side="top" align="start" sideOffset={4}>
          <Items stage={stage} acts={acts} />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Asked when the menu opens: what can be done then. */
function Items({ stage, acts }: { stage: () => Stage | null; acts: (string | null)[] }) {
  return (
    <>
      {acts.map((id, i) => {
        if (id === null) return <DropdownMenu.Separator key={i} className="menu-line" />;
        const command = commandOf(id);
        const not = command.not?.() ?? null;
        return (
          <DropdownMenu.Item
            key={id}
            className="menu-item"
            disabled={not !== null}
            {...(not === null ? {} : { title: not })}
            onSelect={() => setTimeout(() => run(command, stage()!))}
          >
            {command.says}
            <span className="ml-auto pl-6 font-mono text-[11px] text-ink-2">{hint(id).slice(2, -1)}</span>
          </DropdownMenu.Item>
        );
      })}
    </>
  );
}
