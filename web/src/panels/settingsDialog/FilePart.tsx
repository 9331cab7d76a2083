import { useRef, useState } from 'react';
import { session } from '../../acts/session';
import { readSettings } from '../../state/settings';
import { get } from '../../state/store';

/** Settings to take along: out as a file, and in again. */
export function FilePart() {
  const file = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState<{ text: string; refused: boolean } | null>(null);
  const save = () => {
    const text = JSON.stringify({ calmPivotSettings: get().settings }, null, 2);
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
    link.download = 'calm-pivot-settings.json';
    link.click();
    URL.revokeObjectURL(link.href);
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
        <input
          ref={file}
          type="file"
          accept=".json"
          className="hidden"
          aria-label="File of settings"
          onChange={(e) => {
            const chosen = e.target.files?.[0];
            e.target.value = '';
            if (chosen) void load(chosen);
          }}
        />
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
