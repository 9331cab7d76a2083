import { DropdownMenu } from 'radix-ui';
import { floating } from '../controls/floating';
import { useEffect, useRef, type ReactNode } from 'react';

export interface Choice<T> {
  value: T;
  word: string;
  means?: string;
  /** A small drawing beside the word. */
  sign?: ReactNode;
}

/** An underlined word of the sentence: a menu whose choices show themselves on the object while they are hovered. */
export function Word<T extends string | number>(props: {
  label: string;
  children: ReactNode;
  choices: () => Choice<T>[];
  chosen: T;
  choose: (value: T) => void;
  hover?: (value: T | null) => void;
  /** What can be done besides, below the choices. */
  more?: { word: string; act: () => void }[];
}) {
  const { label, children, chosen, choose, hover } = props;
  const byHand = useRef(false);
  // A word that goes while its menu is open lets go, too.
  useEffect(() => () => holdFoot(false), []);
  return (
    <DropdownMenu.Root
      modal={false}
      onOpenChange={(open) => {
        holdFoot(open);
        if (!open) hover?.(null);
      }}
    >
      <DropdownMenu.Trigger className="word" data-word={label} aria-label={`${label}: ${said(children)}`}>
        {children}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={floating()}>
        <DropdownMenu.Content
          className="menu"
          side="top"
          align="start"
          sideOffset={8}
          collisionPadding={8}
          onPointerUp={() => (byHand.current = true)}
          onKeyDown={() => (byHand.current = false)}
          onCloseAutoFocus={(e) => {
            // Chosen by hand, the next key is for the stage: Enter makes what is prepared, and does not open this again.
            if (!byHand.current) return;
            byHand.current = false;
            e.preventDefault();
            document.querySelector<HTMLElement>('[data-stage]')?.focus({ preventScroll: true });
          }}
        >
          <Choices chosen={chosen} choices={props.choices} choose={choose} hover={hover} />
          {props.more?.map(({ word, act }) => (
            <DropdownMenu.Item key={word} className="menu-item" onSelect={() => setTimeout(act)}>
              <span className="w-3" />
              {word}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/**
 * While a menu is open the line below the sentence stays as high as it is: what it says of the choice that is pointed at may be longer or shorter, and
 * the menu would move away from under the pointer.
 */
function holdFoot(open: boolean): void {
  const foot = document.querySelector<HTMLElement>('[data-foot]');
  if (!foot) return;
  foot.style.height = open ? `${foot.offsetHeight}px` : '';
  foot.style.overflowY = open ? 'auto' : '';
}

/** Made only while the menu is open: the drawings show what is seen at that moment. */
function Choices<T extends string | number>(props: {
  choices: () => Choice<T>[];
  chosen: T;
  choose: (value: T) => void;
  hover: ((value: T | null) => void) | undefined;
}) {
  return (
    <DropdownMenu.RadioGroup value={String(props.chosen)}>
      {props.choices().map((choice) => (
        <DropdownMenu.RadioItem
          key={choice.value}
          value={String(choice.value)}
          className="menu-item"
          onFocus={() => props.hover?.(choice.value)}
          onSelect={() => props.choose(choice.value)}
        >
          <span className="w-3 text-plum" aria-hidden>
            {choice.value === props.chosen ? '●' : ''}
          </span>
          {choice.sign}
          <span className="font-semibold">{choice.word}</span>
          {choice.means && <span className="ml-auto pl-6 text-ink-2">{choice.means}</span>}
        </DropdownMenu.RadioItem>
      ))}
    </DropdownMenu.RadioGroup>
  );
}

/** What is written on a word, so that its name holds it. */
function said(children: ReactNode): string {
  return Array.isArray(children)
    ? children.map(said).join('')
    : typeof children === 'string'
      ? children
      : String(children);
}
