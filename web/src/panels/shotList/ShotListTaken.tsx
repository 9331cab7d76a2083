import { readList, takeList } from '../../acts/shotLists';
import { OverStage } from '../../controls/OverStage';
import { set, useStore } from '../../state/store';

/** What a list of shots will change, said before it does. */
export function ShotListTaken() {
  const open = useStore((s) => s.open === 'shotList');
  const asked = useStore((s) => s.asked);
  if (!open || !asked) return null;
  const { answer, file, withOff } = asked;
  const nothing =
    answer.changes.every((c) => c.shot !== null && c.changes.length === 0) &&
    !answer.moved &&
    (answer.firstFrame ?? null) === null;
  return (
    <OverStage title={`The shots of ${file.name}`} narrow>
      <p className="m-0 px-3 pt-2" role="status">
        {answer.text}
        {answer.moved && ' Their order changes.'}
      </p>
      {answer.notes.length > 0 && (
        <ul className="m-0 list-none px-3 pt-1 text-warning">
          {answer.notes.map((note) => (
            <li key={note}>△ {note}</li>
          ))}
        </ul>
      )}
      {answer.off > 0 && (
        <label className="flex items-center gap-2 px-3 pt-2">
          <input
            type="checkbox"
            checked={withOff}
            onChange={(e) => {
              set({ asked: { ...asked, withOff: e.target.checked } });
              void readList(file, e.target.checked);
            }}
          />
          Take what is switched off in the list, too
        </label>
      )}
      <ol className="m-0 min-h-0 flex-1 list-none overflow-auto px-3 py-2" tabIndex={0} aria-label="What will change">
        {answer.changes.slice(0, 400).map((c, i) => (
          <li key={i} className="flex gap-2 border-b border-line py-1">
            <b className="w-36 shrink-0 truncate font-semibold" title={c.title}>
              {c.title}
            </b>
            <span className={c.changes.length === 0 ? 'text-ink-2' : ''}>
              {c.changes.length === 0 ? 'as it is' : c.changes.join(', ')}
            </span>
          </li>
        ))}
        {answer.changes.length > 400 && <li className="text-ink-2">and {answer.changes.length - 400} more</li>}
      </ol>
      <footer className="flex gap-2 border-t border-line px-3 py-2">
        <button type="button" className="btn" disabled={nothing} onClick={() => takeList()}>
          Take them in
        </button>
        <button type="button" className="btn" onClick={() => set({ open: null, asked: null })}>
          Leave all as it is
        </button>
      </footer>
    </OverStage>
  );
}
