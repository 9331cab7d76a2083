import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

export interface Choice<T> {
  value: T;
  word: string;
  means?: string;
}

/** An underlined word of the sentence: a menu whose choices show themselves on the object while they are hovered. */
export function Word<T extends string | number>(props: {
  label: string;
  children: ReactNode;
  choices: Choice<T>[];
  chosen: T;
  choose: (value: T) => void;
  hover?: (value: T | null) => void;
  open?: boolean;
  onOpen?: (open: boolean) => void;
}) {
  const { label, children, choices, chosen, choose, hover } = props;
  return (
    <DropdownMenu.Root
      modal={false}
      {...(props.open === undefined ? {} : { open: props.open })}
      onOpenChange={(open) => {
        if (!open) hover?.(null);
        props.onOpen?.(open);
      }}
    >
      <DropdownMenu.Trigger className="word" aria-label={label}>
        {children}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" side="top" align="start" sideOffset={8}>
          <DropdownMenu.RadioGroup value={String(chosen)}>
            {choices.map((choice) => (
              <DropdownMenu.RadioItem
                key={choice.value}
                value={String(choice.value)}
                className="menu-item"
                onFocus={() => hover?.(choice.value)}
                onSelect={() => choose(choice.value)}
              >
                <span className="w-3 text-plum" aria-hidden>
                  {choice.value === chosen ? '●' : ''}
                </span>
                <span className="font-semibold">{choice.word}</span>
                {choice.means && <span className="ml-auto pl-6 text-ink-2">{choice.means}</span>}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
