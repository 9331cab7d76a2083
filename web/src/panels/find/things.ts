import { commands, keysOf, run } from '../../commands';
import { labelOf } from '../../commands/chords';
import type { OutlineRow } from '../../core/outline';
import type { Stage } from '../../stage/stage';
import { answered } from '../../acts/asked';
import { session } from '../../acts/session';
import { enterShot } from '../../acts/shots';
import { get, set, type PageState } from '../../state/store';
import { settingRows } from '../../state/sections';
import type { Findable } from './match';

/** A thing that Find anything finds, and what comes of it. */
export interface Thing extends Findable {
  id: string;
  name: string;
  kind: string;
  keys: string;
  /** Enter. */
  act: (stage: Stage) => void;
  /** Shift+Enter. */
  frame?: (stage: Stage) => void;
}

let ofRows: { rows: OutlineRow[]; things: Thing[] } | null = null;

/** Nodes, made anew only when the tree has changed. */
export function nodeThings(rows: OutlineRow[]): Thing[] {
  if (ofRows?.rows === rows) return ofRows.things;
  const things = rows.map((row): Thing => ({
    id: `node.${row.id}`,
    name: row.name,
    text: row.name.toLowerCase(),
    kind: row.kind,
    keys: '',
    act: () => void (answered(row.id) || session.select([row.id])),
    frame: (stage) => {
      session.select([row.id]);
      stage.frame([row.id], true);
    },
  }));
  ofRows = { rows, things };
  return things;
}

/** Everything but the nodes. */
export function otherThings(state: PageState): Thing[] {
  return [
    ...commands
      .filter((c) => c.id !== 'find' && c.id !== 'leave')
      .map((command): Thing => {
        const not = command.not?.() ?? null;
        return {
          id: `command.${command.id}`,
          name: command.says,
          text: command.says.toLowerCase(),
          ...(command.also ? { also: command.also.toLowerCase() } : {}),
          kind: not === null ? 'command' : not.replace(/\.$/, '').toLowerCase(),
          keys: keysOf(command).map(labelOf)[0] ?? '',
          act: (stage) => run(command, stage),
        };
      }),
    ...state.named.map(({ name, nodes }): Thing => ({
      id: `selection.${name}`,
      name,
      text: name.toLowerCase(),
      also: 'named selection',
      kind: 'selection',
      keys: '',
      act: () => session.select(nodes.filter((id) => get().byId.has(id))),
    })),
    ...state.shots.map((shot): Thing => ({
      id: `shot.${shot.id}`,
      name: shot.title,
      text: `shot ${shot.title.toLowerCase()}`,
      also: 'arrange in shot card camera',
      kind: shot.id === state.shot ? 'shot, current' : 'shot',
      keys: '',
      act: () => enterShot(shot.id),
      frame: (stage) => {
        enterShot(shot.id);
        if (shot.camera !== null && shot.cameraNote === null) stage.through(shot.camera);
      },
    })),
    ...state.collections.map((row): Thing => ({
      id: `collection.${row.id}`,
      name: row.name,
      text: row.name.toLowerCase(),
      also: 'collection members set',
      kind: 'collection',
      keys: '',
      act: () => session.select(session.core.membersOf(row.id)),
      frame: (stage) => {
        const members = session.core.membersOf(row.id);
        session.select(members);
        if (members.length > 0) stage.frame(members, true);
      },
    })),
    ...state.scenes.map(({ id, name }): Thing => ({
      id: `scene.${id}`,
      name,
      text: name.toLowerCase(),
      also: 'open scene',
      kind: id === state.scene?.id ? 'scene, open' : 'scene',
      keys: '',
      act: () => void session.guarded(() => session.open(id)),
    })),
    ...settingRows.map(({ section, says, also }): Thing => ({
      id: `setting.${says}`,
      name: says,
      text: says.toLowerCase(),
      also: `settings ${section.toLowerCase()} ${also ?? ''}`,
      kind: 'setting',
      keys: '',
      act: () => set({ open: 'settings', settingsAt: section }),
    })),
    ...state.steps.toReversed().map((step): Thing => ({
      id: `step.${step.number}`,
      name: `${step.number}  ${step.name ? `${step.name}: ` : ''}${step.sentence}`,
      text: `${step.name ?? ''} ${step.sentence}`.toLowerCase(),
      kind: 'step',
      keys: '',
      act: () => set({ open: 'steps' }),
    })),
  ];
}

const memory = 'calm-pivot-found';

/** What was found last, most recent first. */
export function recent(): string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(memory) ?? '[]');
    return Array.isArray(kept) ? kept.filter((k) => typeof k === 'string') : [];
  } catch {
    return [];
  }
}

export function remember(id: string): void {
  localStorage.setItem(memory, JSON.stringify([id, ...recent().filter((r) => r !== id)].slice(0, 12)));
}
