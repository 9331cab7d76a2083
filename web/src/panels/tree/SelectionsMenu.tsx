import { Popover } from 'radix-ui';
import { floating } from '../../controls/floating';
import { useState } from 'react';
import { api } from '../../api/client';
import { session } from '../../acts/session';
import { get, useStore } from '../../state/store';

/** Selections with names: pick one again, keep the present one, forget one. */
export function SelectionsMenu() {
  const named = useStore((s) => s.named);
  const count = useStore((s) => s.selection.length);
  const [open, setOpen] = useState(false);
  const [name, setName] = useState('');
  const change = (act: (id: string) => Promise<void>) =>
    void session.guarded(async () => {
      const id = get().scene?.id;
      if (!id) return;
      await act(id);
      await session.listSelections();
    });
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="btn" title="Named selections">
        Selections
      </Popover.Trigger>
      <Popover.Portal container={floating()}>
        <Popover.Content className="menu w-72 p-2" align="end" sideOffset={4} aria-label="Named selections">
          {named.length === 0 && (
            <p className="m-1 text-ink-2">
              Pick some objects and give the selection a name; here it can be picked again.
            </p>
          )}
          {named.map(({ name: known, nodes }) => (
            <div key={known} className="flex items-center gap-1">
              <button
                type="button"
                className="menu-item min-w-0 flex-1 hover:bg-wash"
                onClick={() => {
                  setOpen(false);
                  session.select(nodes.filter((id) => get().byId.has(id)));
                }}
              >
                <span className="truncate">{known}</span>
                <span className="ml-auto font-mono text-[11px] text-ink-2">{nodes.length}</span>
              </button>
              <button
                type="button"
                className="btn-quiet px-1.5 text-ink-2"
                aria-label={`Forget the selection ${known}`}
                onClick={() => change((id) => api.forgetSelection(id, known))}
              >
                ×
              </button>
            </div>
          ))}
          <form
            className="mt-2 flex gap-1.5 border-t border-line pt-2"
            onSubmit={(e) => {
              e.preventDefault();
              change((id) => api.keepSelection(id, name.trim(), get().selection));
              setName('');
            }}
          >
            <input
              className="field flex-1 text-left font-sans"
              aria-label="Name of this selection"
              placeholder={count === 0 ? 'Pick something first' : `Name for these ${count}`}
              value={name}
              maxLength={200}
              disabled={count === 0}
              onChange={(e) => setName(e.target.value)}
            />
            <button type="submit" className="btn" disabled={count === 0 || name.trim() === ''}>
              Keep
            </button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
