import { useRef, useState } from 'react';
import { hand } from '../../acts/handing';
import { session } from '../../acts/session';
import { FileInput } from '../../controls/FileInput';
import { readSettings } from '../../state/settings';
import { get } from '../../state/store';

/** Settings to take along: out as a file, and in again. */
export function FilePart() {
  const file = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState<{ text: string; refused: boolean } | null>(null);
  const save = () => {
    const text = JSON.stringify({ calmPivotSettings: get().settings }, null, 2);
    hand({ blob: new Blob([text], { type: 'application/json' }), name: 'calm-pivot-settings.json' });
  };
  const load = async (chosen: File) => {
    const read = chosen.size > 60_000 ? 'This file is too large to hold settings.' : readSettings(await chosen.text());
    if (typeof read === 'string') setSaid({ text: read, refused: true });
    else {
      session.replaceSettings(read);
      setSaid({ text: `Took over the settings of ${chosen.name}.`, refused: false });
    }
  };
  return (
    <>
      <p className="m-0 mb-3 text-ink-2">
        Your settings are kept on the server for you. As a file they can go elsewhere.
      </p>
      <div className="flex gap-2">
        <button type="button" className="btn" onClick={save}>
          Save as a file
        </button>
        <button type="button" className="btn" onClick={() => file.current?.click()}>
          Take over from a file
        </button>
        <button
          type="button"
          className="btn"
          onClick={() => {
            session.replaceSettings({});
            setSaid({ text: 'Everything is set as it came.', refused: false });
          }}
        >
          All as it came
        </button>
        <FileInput ref={file} accept=".json" aria-label="File of settings" chosen={(chosen) => void load(chosen)} />
      </div>
      {said && (
        <p
          className={`m-0 mt-3 ${said.refused ? 'text-refusal' : 'text-ink-2'}`}
          role={said.refused ? 'alert' : 'status'}
        >
          {said.refused ? '✕ ' : ''}
          {said.text}
        </p>
      )}
    </>
  );
}
