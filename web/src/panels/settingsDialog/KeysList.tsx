import { Popover } from 'radix-ui';
import { floating } from '../../controls/floating';
import { commands, hint, keysOf } from '../../commands';
import { labelOf } from '../../commands/chords';
import { get, set, useStore } from '../../state/store';

/** The list of keys, made from the table that the page acts by. */
export function KeysList() {
  const open = useStore((s) => s.open === 'keys');
  const own = useStore((s) => s.settings.keys);
  const shown = commands.filter((c) => keysOf(c, own).length > 0);
  return (
    <Popover.Root open={open} onOpenChange={(o) => (o || get().open === 'keys') && set({ open: o ? 'keys' : null })}>
      <Popover.Trigger className="btn-quiet" title={`Keys${hint('keys')}`} aria-label="Keys">
        ?
      </Popover.Trigger>
      <Popover.Portal container={floating()}>
        <Popover.Content className="menu w-[640px] p-3" align="end" sideOffset={6} aria-label="Keys">
          <div className="mb-2 flex items-center justify-between">
            <h2 className="panel-title">Keys, while the stage has the focus</h2>
            <button type="button" className="btn" onClick={() => set({ open: 'settings', settingsAt: 'Keys' })}>
              Change them
            </button>
          </div>
          <dl className="m-0 columns-2 gap-6">
            {shown.map((c) => (
              <div key={c.id} className="flex break-inside-avoid gap-3 py-0.5">
                <dt className="w-28 shrink-0 font-mono text-[11.5px] text-ink-2">
                  {keysOf(c, own).map(labelOf).join('  ')}
                </dt>
                <dd className="m-0">{c.says}</dd>
              </div>
            ))}
            <div className="flex break-inside-avoid gap-3 py-0.5">
              <dt className="w-28 shrink-0 font-mono text-[11.5px] text-ink-2">0 … 9 - . =</dt>
              <dd className="m-0">Opens the amount and starts it</dd>
            </div>
          </dl>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
