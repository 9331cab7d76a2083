import { Choice } from '../settingsDialog/SettingRows';
import { useEffect, useMemo, useRef } from 'react';
import { isRefusal, type Edit } from '../../core/answers';
import { session } from '../../acts/session';
import { useStore } from '../../state/store';

/** Shows edits on the stage while they are chosen; leaves everything as it was when the part closes. */
export function usePreview(edit: Edit | null): void {
  const key = edit ? JSON.stringify(edit) : '';
  const version = useStore((s) => s.rows);
  useEffect(() => {
    if (key === '') return;
    session.preview([JSON.parse(key) as Edit]);
    return () => void session.preview([]);
  }, [key, version]);
}

/** What an edit would do besides; null: nothing, or it cannot be done. */
function foretoldOf(key: string): string | null {
  if (key === '') return null;
  const foreseen = session.core.foresee([JSON.parse(key) as Edit]);
  return isRefusal(foreseen) ? null : foreseen.foretold;
}

/** Keeps what is shown. */
export function KeepRow({ edit, what, done }: { edit: Edit | null; what: string; done?: () => void }) {
  const rows = useStore((s) => s.rows);
  const key = edit ? JSON.stringify(edit) : '';
  const foretold = useMemo(() => foretoldOf(key), [key, rows]);
  const row = useRef<HTMLDivElement>(null);
  const shows = edit !== null;
  useEffect(() => {
    if (shows) row.current?.scrollIntoView({ block: 'nearest' });
  }, [shows]);
  return (
    <div className="mt-2 scroll-mb-4" ref={row}>
      {foretold && <p className="m-0 mb-1.5 text-warning">△ {foretold}</p>}
      <button
        type="button"
        className="btn border-plum bg-plum text-on-plum disabled:opacity-50"
        disabled={!edit}
        onClick={() => edit && session.keep(edit) && done?.()}
      >
        {what}
      </button>
    </div>
  );
}

/** A few choices of which one holds. */
export function Few<T extends string>(props: {
  label: string;
  value: T;
  choices: [NoInfer<T>, string][];
  choose: (value: T) => void;
}) {
  const choices = props.choices.map(([value, word]) => ({ value, word }));
  return (
    <div className="mb-1.5">
      <Choice label={props.label} value={props.value} choices={choices} choose={props.choose} />
    </div>
  );
}
