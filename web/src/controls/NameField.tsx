import { returnFocus } from '../acts/focus';
import { session } from '../acts/session';
import { get, set } from '../state/store';

/** The name of an object, a mark or a collection while it is changed: Enter keeps it, Esc leaves it. */
export function NameField({ id, name, label }: { id: string; name: string; label: string }) {
  const keep = (text: string) => {
    if (get().renaming !== id) return;
    set({ renaming: null });
    returnFocus();
    const given = text.trim();
    if (given === '') {
      session.say({ kind: 'info', text: `A name needs at least one character, so it is still called ${name}.` });
      return;
    }
    if (given === name || !session.keep({ do: 'rename', node: id, name: given })) return;
    if (session.core.hasNamesake(id))
      session.say({
        kind: 'info',
        text: `Renamed to ${given}. Another one beside it has the same name, which is fine.`,
      });
  };
  return (
    <input
      autoFocus
      className="field min-w-0 flex-1 text-left font-sans"
      aria-label={label}
      defaultValue={name}
      maxLength={session.core.limits.name}
      onFocus={(e) => e.target.select()}
      onDoubleClick={(e) => e.stopPropagation()}
      onClick={(e) => e.stopPropagation()}
      onBlur={(e) => keep(e.target.value)}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') keep(e.currentTarget.value);
        else if (e.key === 'Escape') {
          set({ renaming: null });
          returnFocus();
        }
      }}
    />
  );
}
