import type { NodeKind } from '../../core/answers';
import { session } from '../../acts/session';
import { settingsOf } from '../../state/settings';
import { set, useStore } from '../../state/store';
import { Choice, OnOff, Row } from './SettingRows';

const kinds: { kind: NodeKind; word: string }[] = [
  { kind: 'shape', word: 'Shapes' },
  { kind: 'mesh', word: 'Meshes' },
  { kind: 'light', word: 'Lamps' },
  { kind: 'camera', word: 'Cameras' },
];

/** What presses and boxes pick. */
export function PickingPart() {
  const settings = settingsOf(useStore((s) => s.settings));
  const left = useStore((s) => s.kindsLeftOut);
  const adding = useStore((s) => s.adding);
  return (
    <>
      <Row says="A box picks">
        <Choice
          label="A box picks"
          value={settings.boxWhole ? 'whole' : 'touch'}
          choices={[
            { value: 'touch', word: 'What it touches' },
            { value: 'whole', word: 'What it holds whole' },
          ]}
          choose={(v) => session.saveSettings({ boxWhole: v === 'whole' })}
        />
      </Row>
      <Row says="A box picks only what is seen, where surfaces are drawn">
        <OnOff
          label="A box picks only what is seen, where surfaces are drawn"
          on={settings.boxSeen}
          flip={(boxSeen) => session.saveSettings({ boxSeen })}
        />
      </Row>
      <p className="m-0 mb-1 text-ink-2">Alt turns it round while the box is drawn.</p>
      <Row says="Every press adds, for pen and touch">
        <OnOff label="Every press adds" on={adding} flip={(on) => set({ adding: on })} />
      </Row>
      <Row says="Undo takes back selections, too">
        <OnOff
          label="Undo takes back selections, too"
          on={settings.selectionSteps}
          flip={(selectionSteps) => session.saveSettings({ selectionSteps })}
        />
      </Row>
      <h3 className="panel-title mt-4 mb-1">Kinds that can be picked on the stage, for now</h3>
      {kinds.map(({ kind, word }) => (
        <Row key={kind} says={word}>
          <OnOff
            label={word}
            on={!left.includes(kind)}
            flip={(on) => set({ kindsLeftOut: on ? left.filter((k) => k !== kind) : [...left, kind] })}
          />
        </Row>
      ))}
    </>
  );
}
