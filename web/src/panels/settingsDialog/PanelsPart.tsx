import { useState } from 'react';
import { arrange, arrangements } from '../../commands/page';
import { session } from '../../acts/session';
import { settingsOf } from '../../state/settings';
import { useStore } from '../../state/store';
import { OnOff, Row } from './SettingRows';

const rowSwitches = [
  { which: 'working', says: 'Of the working view' },
  { which: 'final', says: 'Of the final picture' },
  { which: 'locked', says: 'Locks' },
] as const;

/** How the panels stand; ready-made arrangements and own ones. */
export function PanelsPart() {
  const settings = useStore((s) => s.settings);
  const { arrangement, treeShows } = settingsOf(settings);
  const own = settings.arrangements ?? [];
  const [name, setName] = useState('');
  const keep = () => {
    session.saveSettings({
      arrangements: [...own.filter((a) => a.name !== name.trim()), { name: name.trim(), arrangement }].slice(-20),
    });
    setName('');
  };
  return (
    <>
      <Row says="Tree">
        <OnOff label="Tree" on={arrangement.tree} flip={(tree) => arrange({ tree })} />
      </Row>
      <Row says="Placement, pivot and the other panels">
        <OnOff label="Panels" on={arrangement.panel} flip={(panel) => arrange({ panel })} />
      </Row>
      <Row says="Tree on the right, panels on the left">
        <OnOff label="Tree on the right" on={arrangement.swapped} flip={(swapped) => arrange({ swapped })} />
      </Row>
      <Row says="The other members of its collection on the stage">
        <OnOff
          label="The other members of its collection on the stage"
          on={settingsOf(settings).mates}
          flip={(mates) => session.saveSettings({ mates })}
        />
      </Row>
      <Row says="Members in the colours of their collections">
        <OnOff
          label="Members in the colours of their collections"
          on={settingsOf(settings).collectionColors}
          flip={(collectionColors) => session.saveSettings({ collectionColors })}
        />
      </Row>
      <h3 className="panel-title mt-4 mb-1">Switches that rows of the tree show</h3>
      {rowSwitches.map(({ which, says }) => (
        <Row key={which} says={says}>
          <OnOff
            label={says}
            on={treeShows[which]}
            flip={(on) => session.saveSettings({ treeShows: { ...treeShows, [which]: on } })}
          />
        </Row>
      ))}
      <h3 className="panel-title mt-4 mb-1">Arrangements</h3>
      <div className="flex flex-wrap gap-1.5">
        {arrangements.map((a) => (
          <button key={a.id} type="button" className="btn" onClick={() => arrange(a.arrangement)}>
            {a.says.replace('Arranged for ', 'For ')}
          </button>
        ))}
        {own.map((a) => (
          <span key={a.name} className="flex">
            <button type="button" className="btn rounded-r-none" onClick={() => arrange(a.arrangement)}>
              {a.name}
            </button>
            <button
              type="button"
              className="btn -ml-px rounded-l-none px-1.5 text-ink-2"
              aria-label={`Forget the arrangement ${a.name}`}
              onClick={() => session.saveSettings({ arrangements: own.filter((o) => o !== a) })}
            >
              ×
            </button>
          </span>
        ))}
      </div>
      <form
        className="mt-3 flex gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          keep();
        }}
      >
        <input
          className="field flex-1 text-left font-sans"
          aria-label="Name of an own arrangement"
          placeholder="Name for how it stands now"
          value={name}
          maxLength={60}
          onChange={(e) => setName(e.target.value)}
        />
        <button type="submit" className="btn" disabled={name.trim() === ''}>
          Keep this arrangement
        </button>
      </form>
    </>
  );
}
