import { api } from '../api/client';
import { askForFile } from '../acts/importing';
import { download } from '../acts/longWork';
import { session } from '../acts/session';
import { showScenes } from '../acts/wholeScenes';
import { get, set, type Asking } from '../state/store';
import { nothingPicked, type Command } from './command';

const noScene = () => (get().scene ? null : 'No scene is open.');

const asks: [Asking, string, string][] = [
  ['new', 'New scene', 'create file document'],
  ['rename', 'Rename this scene', 'name'],
  ['copy', 'Copy this scene', 'duplicate save as'],
  ['remove', 'Remove this scene', 'delete'],
];

/** Commands about whole scenes and files. */
export const sceneCommands: Command[] = [
  ...asks.map(([asking, says, also]): Command => ({
    id: `scene.${asking}`,
    group: 'Scene',
    says,
    also,
    keys: [],
    ...(asking === 'new' ? {} : { not: noScene }),
    act: () => set({ asking }),
  })),
  {
    id: 'scene.all',
    group: 'Scene',
    says: 'All scenes',
    also: 'open browse gallery files documents',
    keys: [],
    act: () => showScenes(),
  },
  {
    id: 'scene.start',
    group: 'Scene',
    says: 'Let new scenes begin like this one, or not',
    also: 'template startup default',
    keys: [],
    not: noScene,
    act: () => beginLikeThis(),
  },
  {
    id: 'scene.demo',
    group: 'Scene',
    says: 'Restore the demo',
    also: 'reset example',
    keys: [],
    act: () => void session.guarded(restoreDemo),
  },
  {
    id: 'import.new',
    group: 'Scene',
    says: 'Import a file as a new scene',
    also: 'open load gltf glb zip',
    keys: [],
    act: () => askForFile({ to: 'new' }),
  },
  {
    id: 'import.here',
    group: 'Scene',
    says: 'Import a file into this scene',
    also: 'merge append load gltf glb zip',
    keys: [],
    not: noScene,
    act: () => askForFile({ to: 'here' }),
  },
  {
    id: 'import.under',
    group: 'Scene',
    says: 'Import a file under the lead',
    also: 'merge append load gltf glb zip',
    keys: [],
    not: () => noScene() ?? nothingPicked(),
    act: () => askForFile({ to: 'under' }),
  },
  ...(['glb', 'gltf'] as const).map((format): Command => ({
    id: `export.${format}`,
    group: 'Scene',
    says: format === 'glb' ? 'Export as one binary glTF file' : 'Export as glTF text',
    also: 'save download gltf glb',
    keys: [],
    not: noScene,
    act: () => void session.guarded(() => download(format)),
  })),
];

export function beginLikeThis(): void {
  const { scene, settings } = get();
  session.saveSettings({ startScene: settings.startScene === scene?.id ? 'start' : scene!.id });
}

export async function restoreDemo(): Promise<void> {
  const demo = await api.restoreDemo();
  await session.listScenes();
  await session.open(demo.id);
  session.say({ kind: 'info', text: 'The demo is as it was. Undo brings back what you had.' });
}
