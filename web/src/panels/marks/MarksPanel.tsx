import { DropdownMenu } from 'radix-ui';
import { floating } from '../../controls/floating';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { captureMark, startPicking } from '../../commands/placing';
import { session } from '../../acts/session';
import { get, set, useStore } from '../../state/store';
import { makeCurrent } from '../../acts/currentMark';
import { MenuItem } from '../../controls/MenuItem';
import { Name } from '../../controls/Name';
import { NameField } from '../../controls/NameField';
import type { OutlineRow } from '../../core/outline';
import { pick } from '../../stage/press';

/** The marks of the scene: named points with directions, to work along and about, and where new objects appear. */
export function MarksPanel() {
  const marks = useStore((s) => s.marks);
  const picked = useStore((s) => s.selection.length > 0);
  const [open, setOpen] = useState(true);
  return (
    <section aria-label="Marks" className="border-t border-line px-3 py-2">
      <header className="flex items-center justify-between">
        <button type="button" className="panel-title" aria-expanded={open} onClick={() => setOpen(!open)}>
          Marks {marks.length > 0 && <span className="font-normal text-ink-2">{marks.length}</span>}
        </button>
        <DropdownMenu.Root modal={false}>
          <DropdownMenu.Trigger className="btn" aria-label="New mark">
            <Plus size={13} aria-hidden /> Mark
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal container={floating()}>
            <DropdownMenu.Content className="menu" align="end" sideOffset={4}>
              <DropdownMenu.Item className="menu-item" onSelect={() => setTimeout(() => startPicking('mark'))}>
                Press on a surface or the ground…
              </DropdownMenu.Item>
              <DropdownMenu.Item className="menu-item" disabled={!picked} onSelect={() => captureMark('pivot')}>
                At the lead’s pivot
              </DropdownMenu.Item>
              <DropdownMenu.Item className="menu-item" disabled={!picked} onSelect={() => captureMark('pivot', true)}>
                Following the lead
              </DropdownMenu.Item>
              <DropdownMenu.Item className="menu-item" onSelect={() => captureMark('view')}>
                From the view
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </header>
      {open && marks.length > 0 && (
        <ul className="m-0 mt-1 max-h-24 list-none overflow-auto p-0" aria-label="Marks of this scene">
          {marks.map((mark) => (
            <MarkRow key={mark.id} mark={mark} />
          ))}
        </ul>
      )}
    </section>
  );
}

function MarkRow({ mark }: { mark: OutlineRow }) {
  const chosen = useStore((s) => s.selection.includes(mark.id));
  const current = useStore((s) => s.currentMark === mark.id);
  const source = useStore((s) => (mark.parent ? s.byId.get(mark.parent)?.name : null));
  const renaming = useStore((s) => s.renaming === mark.id);
  const others = useStore(useShallow((s) => s.selection.filter((id) => id !== mark.id)));
  const state = [source ? `follows ${source}` : 'pinned', ...(current ? ['new objects here'] : [])].join(' · ');
  return (
    <li className={`flex items-center gap-1 rounded ${chosen ? 'bg-wash' : ''}`}>
      {renaming ? (
        <NameField id={mark.id} name={mark.name} label="Name of the mark" />
      ) : (
        <button
          type="button"
          className="flex min-h-7 min-w-0 flex-1 items-center gap-1 rounded px-1 text-left"
          aria-pressed={chosen}
          title={`${mark.name}: ${state}`}
          onClick={(e) => pick(mark.id, e.ctrlKey || e.metaKey)}
          onDoubleClick={() => set({ renaming: mark.id })}
        >
          <span aria-hidden>{current ? '◆' : '◇'}</span>
          <Name text={mark.name} />
          <span className="min-w-10 truncate pl-0.5 text-[11px] text-ink-2">{state}</span>
        </button>
      )}
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className="btn px-1.5" aria-label={`More about the mark ${mark.name}`}>
          ⋯
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal container={floating()}>
          <DropdownMenu.Content className="menu" align="end">
            <MenuItem
              word={current ? 'New objects at world zero again' : 'New objects here'}
              act={() => makeCurrent(current ? null : mark.id)}
            />
            <MenuItem
              word="Work along its axes"
              act={() => set({ spaces: { ...get().spaces, [get().verb]: `mark:${mark.id}` } })}
            />
            <MenuItem
              word="Work about it"
              act={() => set({ abouts: { rotate: `mark:${mark.id}`, scale: `mark:${mark.id}` } })}
            />
            <MenuItem
              word="Bring the picked here"
              off={others.length === 0}
              act={() => session.keep({ do: 'bring', nodes: others, to: { mark: mark.id } })}
            />
            <MenuItem
              word="Bring the picked here, turned like it"
              off={others.length === 0}
              act={() => session.keep({ do: 'bring', nodes: others, to: { mark: mark.id }, rotation: true })}
            />
            <MenuItem
              word="Bring it to the lead"
              off={others.length === 0}
              act={() => session.keep({ do: 'bring', nodes: [mark.id], to: { node: others.at(-1) }, rotation: true })}
            />
            {mark.parent ? (
              <MenuItem word="Pin it here" act={() => session.keep({ do: 'follow', mark: mark.id, node: null })} />
            ) : (
              <MenuItem
                word="Follow the lead"
                off={others.length === 0}
                act={() => session.keep({ do: 'follow', mark: mark.id, node: others.at(-1) })}
              />
            )}
            <MenuItem word="Rename" act={() => set({ renaming: mark.id })} />
            <MenuItem word="Remove" act={() => removeMark(mark.id)} />
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </li>
  );
}

function removeMark(id: string): void {
  if (session.keep({ do: 'remove', nodes: [id] })) session.select(get().selection.filter((n) => n !== id));
}
