import { escape } from './escape';
import { session } from '../acts/session';
import { type Arrangement } from '../state/settings';
import { ownSettings } from '../state/ownSettings';
import { get, set } from '../state/store';
import { showStep } from '../acts/history';
import { clearUnused } from '../acts/unused';
import { startWalk } from '../acts/firstWalk';
import type { Command } from './command';

/** Ready-made arrangements of the panels. */
export const arrangements: { id: string; says: string; arrangement: Partial<Arrangement> }[] = [
  { id: 'placing', says: 'Arranged for placing', arrangement: { tree: true, panel: true } },
  { id: 'building', says: 'Arranged for building', arrangement: { tree: true, panel: false, treeWidth: 320 } },
  { id: 'looking', says: 'Arranged for looking', arrangement: { tree: false, panel: false } },
];

export function arrange(change: Partial<Arrangement>): void {
  session.saveSettings({ arrangement: { ...ownSettings().arrangement, ...change } });
}

const open = (what: 'find' | 'settings' | 'steps' | 'keys') => set({ open: get().open === what ? null : what });

/** The menu of a row, as a right press on it opens it. */
function openMenuOf(row: Element): void {
  const { left, bottom } = row.getBoundingClientRect();
  const init = { bubbles: true, cancelable: true, clientX: left + 40, clientY: bottom };
  row.dispatchEvent(new MouseEvent('contextmenu', init));
}

/** Closed, the steps show nothing on the stage any more. */
export function openSteps(): void {
  void showStep(null);
  open('steps');
}

/** Commands of the page itself. */
export const pageCommands: Command[] = [
  {
    id: 'find',
    group: 'Page',
    says: 'Find anything',
    also: 'search palette',
    keys: ['Ctrl+k'],
    act: () => open('find'),
  },
  { id: 'keys', group: 'Page', says: 'Keys', also: 'shortcuts help', keys: ['?'], act: () => open('keys') },
  {
    id: 'settings',
    group: 'Page',
    says: 'Settings',
    also: 'preferences options',
    keys: ['Ctrl+,'],
    act: () => open('settings'),
  },
  { id: 'history', group: 'Page', says: 'Steps', also: 'history log', keys: ['Ctrl+h'], act: () => openSteps() },
  {
    id: 'theme',
    group: 'Page',
    says: 'Day or night colours',
    also: 'dark light theme',
    keys: [],
    act: () => session.saveSettings({ theme: ownSettings().theme === 'day' ? 'night' : 'day' }),
  },
  {
    id: 'walk',
    group: 'Page',
    says: 'The first walk: five steps by doing',
    also: 'tutorial tour help',
    keys: [],
    act: () => void startWalk(),
  },
  {
    id: 'panel.tree',
    group: 'Page',
    says: 'Tree on or off',
    also: 'hierarchy panel',
    keys: ['F6'],
    act: () => arrange({ tree: !ownSettings().arrangement.tree }),
  },
  {
    id: 'panel.panels',
    group: 'Page',
    says: 'Panels on or off',
    also: 'properties inspector',
    keys: ['F7'],
    act: () => arrange({ panel: !ownSettings().arrangement.panel }),
  },
  {
    id: 'panel.swap',
    group: 'Page',
    says: 'Tree and panels change sides',
    keys: [],
    act: () => arrange({ swapped: !ownSettings().arrangement.swapped }),
  },
  ...arrangements.map(({ id, says, arrangement }): Command => ({
    id: `arrange.${id}`,
    group: 'Page',
    says,
    also: 'layout workspace',
    keys: [],
    act: () => arrange(arrangement),
  })),
  {
    id: 'menu',
    group: 'Page',
    says: 'Menu of what can be done here',
    also: 'context right click',
    keys: ['Shift+F10', 'ContextMenu'],
    act: (stage) => {
      const row = document.activeElement?.closest('[role="tree"]')?.querySelector('[aria-selected="true"]');
      if (row) openMenuOf(row);
      else stage.openMenu();
    },
  },
  {
    id: 'unused',
    group: 'Scene',
    says: 'Clear geometry and pictures that nothing uses',
    also: 'purge unused data',
    keys: [],
    act: () => void clearUnused(),
  },
  {
    id: 'leave',
    group: 'Page',
    says: 'Put back, or leave',
    also: 'cancel',
    keys: ['Escape'],
    act: escape,
  },
];
