import { useState } from 'react';
import { clash, commands, keysOf } from '../../commands';
import { chordOf, isModifier, labelOf, type Chord } from '../../commands/chords';
import type { Command, Group } from '../../commands/command';
import { session } from '../../acts/session';
import { useStore } from '../../state/store';

const groups: Group[] = ['Sentence', 'Edit', 'Pick', 'View', 'Page', 'Scene'];

/** The keys of all commands: press a new one to change it; clashes are refused by name. */
export function KeysPart() {
  const own = useStore((s) => s.settings.keys);
  const [asking, setAsking] = useState<string | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const [filter, setFilter] = useState('');
  const wanted = filter.trim().toLowerCase();

  const give = (command: Command, chords: Chord[]) => session.saveSettings({ keys: { ...own, [command.id]: chords } });
  const taken = (command: Command, chord: Chord) => {
    const why = clash(chord, command.id, own);
    setRefused(why && `${why}`);
    setAsking(null);
    if (!why) give(command, [...keysOf(command, own).filter((k) => k !== chord), chord]);
  };

  return (
    <>
      <div className="sticky -top-3 z-10 -mt-3 flex gap-2 border-b border-line bg-paper py-3">
        <input
          className="field flex-1 text-left font-sans"
          aria-label="Find a command"
          placeholder="Find a command"
          value={filter}
          onChange={(e) => setFilter(e.target.value)}
        />
        <button type="button" className="btn" disabled={!own} onClick={() => session.saveSettings({ keys: {} })}>
          All keys as they came
        </button>
      </div>
      {refused && (
        <p className="m-0 mt-2 text-refusal" role="alert">
          ✕ {refused}
        </p>
      )}
      {groups.map((group) => {
        const shown = commands.filter(
          (c) => c.group === group && `${c.says} ${c.also ?? ''}`.toLowerCase().includes(wanted),
        );
        if (shown.length === 0) return null;
        return (
          <section key={group} aria-label={`Keys: ${group}`}>
            <h3 className="panel-title mt-3 mb-1">{group}</h3>
            {shown.map((command) => (
              <div key={command.id} className="flex min-h-8 items-center gap-1.5">
                <span className="min-w-0 flex-1 truncate">{command.says}</span>
                {keysOf(command, own).map((chord) => (
                  <button
                    key={chord}
                    type="button"
                    className="btn font-mono text-[11.5px]"
                    title="Take this key away"
                    aria-label={`Take ${labelOf(chord)} away from ${command.says}`}
                    onClick={() =>
                      give(
                        command,
                        keysOf(command, own).filter((k) => k !== chord),
                      )
                    }
                  >
                    {labelOf(chord)} <span aria-hidden>×</span>
                  </button>
                ))}
                <button
                  type="button"
                  data-catches-keys
                  className={`btn ${asking === command.id ? 'border-plum text-plum' : 'text-ink-2'}`}
                  aria-label={`Give ${command.says} a key`}
                  onClick={() => setAsking(asking === command.id ? null : command.id)}
                  onBlur={() => setAsking(null)}
                  onKeyDown={(e) => {
                    if (asking !== command.id || isModifier(e.key)) return;
                    e.preventDefault();
                    e.stopPropagation();
                    if (e.key === 'Escape') setAsking(null);
                    else taken(command, chordOf(e.nativeEvent));
                  }}
                >
                  {asking === command.id ? 'Press a key' : '+'}
                </button>
                {own?.[command.id] && (
                  <button
                    type="button"
                    className="btn text-ink-2"
                    onClick={() => {
                      const { [command.id]: _, ...rest } = own;
                      session.saveSettings({ keys: rest });
                    }}
                  >
                    As it came
                  </button>
                )}
              </div>
            ))}
          </section>
        );
      })}
    </>
  );
}
