import { DropdownMenu } from 'radix-ui';

/** A line of a menu; it acts once the menu has closed, so that what it opens keeps the focus. */
export function MenuItem({ word, act, off = false }: { word: string; act: () => void; off?: boolean }) {
  return (
    <DropdownMenu.Item className="menu-item" disabled={off} onSelect={() => setTimeout(act)}>
      {word}
    </DropdownMenu.Item>
  );
}
