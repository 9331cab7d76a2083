import { settingsOf, type FullSettings } from './settings';
import { get } from './store';

/** All settings of this person. */
export const ownSettings = (): FullSettings => settingsOf(get().settings);
