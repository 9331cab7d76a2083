import { api } from '../../api/client';
import { session } from '../../acts/session';
import { settingsOf, type MarksSettings, type NumberSettings } from '../../state/settings';
import { useStore } from '../../state/store';
import { Amount, Choice, OnOff, Row } from './SettingRows';

const tints = [
  { value: '', word: 'Plum' },
  { value: '#1F7A72', word: 'Teal' },
  { value: '#B0541E', word: 'Copper' },
  { value: '#2F5FC4', word: 'Blue' },
];

/** Colours, numbers, and how picked objects show. */
export function LooksPart() {
  const settings = settingsOf(useStore((s) => s.settings));
  const scene = useStore((s) => s.scene);
  const { marks, numbers } = settings;
  const mark = (change: Partial<MarksSettings>) => session.saveSettings({ marks: { ...marks, ...change } });
  const count = (change: Partial<NumberSettings>) => session.saveSettings({ numbers: { ...numbers, ...change } });
  return (
    <>
      <Row says="Colours">
        <Choice
          label="Colours"
          value={settings.theme}
          choices={[
            { value: 'day', word: 'Day' },
            { value: 'night', word: 'Night' },
          ]}
          choose={(theme) => session.saveSettings({ theme })}
        />
      </Row>
      <Row says="Unit of this scene">
        <Choice
          label="Unit of this scene"
          value={scene?.unit ?? 'm'}
          choices={Object.keys(session.core.limits.units).map((u) => ({ value: u, word: u }))}
          choose={(unit) => void session.guarded(async () => void (scene && (await api.describe(scene.id, { unit }))))}
        />
      </Row>
      <Row says="Decimals of lengths">
        <Amount
          label="Decimals of lengths"
          value={numbers.lengths}
          from={0}
          to={6}
          step={1}
          say={String}
          change={(lengths) => count({ lengths })}
        />
      </Row>
      <Row says="Decimals of angles">
        <Amount
          label="Decimals of angles"
          value={numbers.angles}
          from={0}
          to={6}
          step={1}
          say={String}
          change={(angles) => count({ angles })}
        />
      </Row>
      <Row says="Size of the handles">
        <Amount
          label="Size of the handles"
          value={settings.handleSize}
          from={0.5}
          to={2.5}
          step={0.1}
          say={(v) => `${Math.round(v * 100)} %`}
          change={(handleSize) => session.saveSettings({ handleSize })}
        />
      </Row>
      <h3 className="panel-title mt-4 mb-1">Picked objects</h3>
      <Row says="Shown by">
        <Choice
          label="Picked objects are shown by"
          value={marks.show}
          choices={[
            { value: 'outline', word: 'An outline' },
            { value: 'dim', word: 'Paling all else' },
            { value: 'both', word: 'Both' },
          ]}
          choose={(show) => mark({ show })}
        />
      </Row>
      <Row says="Width of the outline">
        <Amount
          label="Width of the outline"
          value={marks.width}
          from={1}
          to={6}
          step={0.5}
          say={(v) => `${v} px`}
          change={(width) => mark({ width })}
        />
      </Row>
      <Row says="Tint">
        <Choice label="Tint" value={marks.tint ?? ''} choices={tints} choose={(tint) => mark({ tint: tint || null })} />
      </Row>
      <Row says="Picked but hidden objects as dotted ghosts">
        <OnOff
          label="Picked but hidden objects as dotted ghosts"
          on={marks.ghosts}
          flip={(ghosts) => mark({ ghosts })}
        />
      </Row>
    </>
  );
}
