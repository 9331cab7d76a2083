import { session } from '../state/session';
import { get, set } from '../state/store';

/** The name of an object, a mark or a collection while it is changed: Enter keeps it, Esc leaves it. */
export function NameField({ id, name, label }: { id: string; name: string; label: string }) {
  const keep = (text: string) => {
    if (get().renaming !== id) return;
    set({ renaming: null });
    if (text.trim() !== '' && text.trim() !== name) session.keep({ do: 'rename', node: id, name: text });
  };
  return (
    <input
      autoFocus
      className="field min-w-0 flex-1 text-left font-sans"
      aria-label={label}
      defaultValue={name}
      maxLength={500}
      onFocus={(e) => e.target.select()}
      onClick={(e) => e.stopPropagation()}
      onBlur={(e) => keep(e.target.value)}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') keep(e.currentTarget.value);
        else if (e.key === 'Escape') set({ renaming: null });
      }}
    />
  );
}
