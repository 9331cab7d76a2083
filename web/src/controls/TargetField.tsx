import { Popover } from 'radix-ui';
import { useMemo, useState, type KeyboardEvent } from 'react';
import { floating } from './floating';
import { Name } from './Name';
import { useStore } from '../state/store';

/** More would not be read; the text narrows them. */
const most = 60;

/** Chooses an object or a mark by its name. */
export function TargetField(props: {
  label: string;
  value: string | null;
  /** What is said while none is chosen. */
  empty?: string;
  /** Objects that cannot be chosen. */
  without: readonly string[];
  choose: (id: string) => void;
}) {
  const [open, setOpen] = useState(false);
  const byId = useStore((s) => s.byId);
  const name = props.value === null ? null : (byId.get(props.value)?.name ?? 'gone');
  return (
    <Popover.Root open={open} onOpenChange={setOpen} modal={false}>
      <Popover.Trigger
        className="btn min-w-0 flex-1 justify-start"
        aria-label={props.label}
        title={name ?? props.label}
      >
        {name === null ? <span className="text-ink-2">{props.empty ?? 'Choose…'}</span> : <Name text={name} />}
      </Popover.Trigger>
      <Popover.Portal container={floating()}>
        <Popover.Content className="menu w-60 p-2" align="start" collisionPadding={8} data-catches-keys>
          {open && (
            <Choices
              label={props.label}
              without={props.without}
              choose={(id) => {
                setOpen(false);
                props.choose(id);
              }}
            />
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Choices(props: { label: string; without: readonly string[]; choose: (id: string) => void }) {
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const rows = useStore((s) => s.rows);
  const marks = useStore((s) => s.marks);
  const found = useMemo(() => {
    const wanted = text.trim().toLowerCase();
    return [...marks, ...rows]
      .filter((row) => !props.without.includes(row.id) && row.name.toLowerCase().includes(wanted))
      .slice(0, most);
  }, [text, rows, marks, props.without]);
  const chosen = Math.min(at, found.length - 1);
  const keyed = (e: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[e.key];
    if (step !== undefined) setAt(Math.max(0, Math.min(found.length - 1, chosen + step)));
    else if (e.key === 'Enter' && found[chosen]) props.choose(found[chosen].id);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <>
      <input
        autoFocus
        role="combobox"
        aria-expanded
        aria-controls="targets"
        aria-activedescendant={found[chosen] ? `target-${found[chosen].id}` : undefined}
        aria-label={props.label}
        className="field mb-1 text-left font-sans"
        placeholder="A part of its name"
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setAt(0);
        }}
        onKeyDown={keyed}
      />
      <ul id="targets" role="listbox" aria-label={props.label} className="m-0 max-h-56 list-none overflow-auto p-0">
        {found.map((row, i) => (
          <li
            key={row.id}
            id={`target-${row.id}`}
            role="option"
            aria-selected={i === chosen}
            className={`menu-item ${i === chosen ? 'bg-wash' : ''}`}
            onPointerEnter={() => setAt(i)}
            onClick={() => props.choose(row.id)}
          >
            <Name text={row.name} />
          </li>
        ))}
        {found.length === 0 && <li className="px-2 py-1 text-ink-2">Nothing is called so.</li>}
      </ul>
    </>
  );
}
