import { Popover } from 'radix-ui';
import { keys } from '../../keys/keys';

/** The list of keys, made from the table that the page acts by. */
export function KeysDialog() {
  return (
    <Popover.Root>
      <Popover.Trigger className="btn-quiet" title="Keys" aria-label="Keys">
        ?
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="menu w-80 p-3" align="end" sideOffset={6} aria-label="Keys">
          <h2 className="panel-title mb-2">Keys, while the stage has the focus</h2>
          <dl className="m-0 grid grid-cols-[110px_1fr] gap-y-1">
            {keys.map((k) => (
              <div key={`${k.ctrl}${k.shift}${k.key}`} className="contents">
                <dt className="font-mono text-[11.5px] text-ink-2">
                  {[
                    k.ctrl && 'Ctrl',
                    k.shift && 'Shift',
                    k.key.length === 1 ? k.key.toUpperCase() : k.key[0]!.toUpperCase() + k.key.slice(1),
                  ]
                    .filter(Boolean)
                    .join(' + ')}
                </dt>
                <dd className="m-0">{k.does}</dd>
              </div>
            ))}
            <dt className="font-mono text-[11.5px] text-ink-2">0 … 9 - . =</dt>
            <dd className="m-0">opens the amount and starts it</dd>
          </dl>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
