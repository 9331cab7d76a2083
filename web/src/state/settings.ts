/** Which hands the pointer is used with. */
export type NavigationSet = 'mouse' | 'twoButtons' | 'trackpad' | 'pen';

export interface MarksSettings {
  show: 'outline' | 'dim' | 'both';
  /** Pixels. */
  width: number;
  /** A colour, or null for the theme's accent. */
  tint: string | null;
  /** Picked but hidden objects as dotted ghosts. */
  ghosts: boolean;
}

export interface NavigationSettings {
  set: NavigationSet;
  /** Turn freely like a ball instead of about the upright. */
  ball: boolean;
  speed: number;
  invertX: boolean;
  invertY: boolean;
  invertDolly: boolean;
}

/** How the panels stand. */
export interface Arrangement {
  tree: boolean;
  panel: boolean;
  /** The tray at the foot of the stage is open; else it is a line. */
  tray: boolean;
  /** Tree on the right, panels on the left. */
  swapped: boolean;
  treeWidth: number;
  panelWidth: number;
}

/** What is drawn over the picture of a camera that is looked through. */
export interface Aids {
  thirds: boolean;
  cross: boolean;
  /** Where action is safe from being cut off, and where titles are. */
  safe: boolean;
  horizon: boolean;
  /** What is outside is dimmed. */
  dim: boolean;
}

/** The chapters of the right-hand panel. */
export type Chapter = 'where' | 'what' | 'why';

export interface NumberSettings {
  lengths: number;
  angles: number;
}

/** The switches that rows of the tree show. */
export interface TreeShows {
  locked: boolean;
  working: boolean;
  final: boolean;
}

/** All that a person has set; what is left out stands at its default. Kept on the server. */
export interface Settings {
  theme?: 'day' | 'night';
  startScene?: string;
  marks?: Partial<MarksSettings>;
  navigation?: Partial<NavigationSettings>;
  arrangement?: Partial<Arrangement>;
  arrangements?: { name: string; arrangement: Arrangement }[];
  numbers?: Partial<NumberSettings>;
  handleSize?: number;
  /** Boxes pick only what they hold whole. */
  boxWhole?: boolean;
  /** Where surfaces are drawn, boxes leave out what lies behind them. */
  boxSeen?: boolean;
  /** A picked member of a collection shows the others with a thin outline. */
  mates?: boolean;
  /** Undo takes back selections, too. */
  selectionSteps?: boolean;
  /** The tree shows the colours of the collections that each object was put into. */
  collectionColors?: boolean;
  treeShows?: Partial<TreeShows>;
  aids?: Partial<Aids>;
  walked?: boolean;
  /** The chapter of the right-hand panel that was open last. */
  chapter?: Chapter;
  /** Parts of the panels that are folded, by their titles. */
  folded?: Record<string, boolean>;
  /** Keys by command, where they differ from the table. */
  keys?: Record<string, string[]>;
}

export interface FullSettings {
  theme: 'day' | 'night';
  marks: MarksSettings;
  navigation: NavigationSettings;
  arrangement: Arrangement;
  numbers: NumberSettings;
  handleSize: number;
  boxWhole: boolean;
  boxSeen: boolean;
  mates: boolean;
  selectionSteps: boolean;
  collectionColors: boolean;
  treeShows: TreeShows;
  aids: Aids;
  folded: Record<string, boolean>;
  chapter: Chapter;
}

const defaults: FullSettings = {
  theme: 'day',
  marks: { show: 'outline', width: 2, tint: null, ghosts: true },
  navigation: { set: 'mouse', ball: false, speed: 1, invertX: false, invertY: false, invertDolly: false },
  arrangement: { tree: true, panel: true, tray: true, swapped: false, treeWidth: 244, panelWidth: 292 },
  numbers: { lengths: 3, angles: 2 },
  handleSize: 1,
  boxWhole: false,
  boxSeen: true,
  mates: true,
  selectionSteps: false,
  collectionColors: false,
  treeShows: { locked: true, working: true, final: true },
  aids: { thirds: false, cross: false, safe: false, horizon: false, dim: true },
  folded: {},
  chapter: 'where',
};

let known: { from: Settings; full: FullSettings } | null = null;

/** Settings with their defaults filled in. */
export function settingsOf(settings: Settings): FullSettings {
  if (known?.from === settings) return known.full;
  const full: FullSettings = {
    theme: settings.theme ?? defaults.theme,
    marks: { ...defaults.marks, ...settings.marks },
    navigation: { ...defaults.navigation, ...settings.navigation },
    arrangement: { ...defaults.arrangement, ...settings.arrangement },
    numbers: { ...defaults.numbers, ...settings.numbers },
    handleSize: settings.handleSize ?? defaults.handleSize,
    boxWhole: settings.boxWhole ?? defaults.boxWhole,
    boxSeen: settings.boxSeen ?? defaults.boxSeen,
    mates: settings.mates ?? defaults.mates,
    selectionSteps: settings.selectionSteps ?? defaults.selectionSteps,
    collectionColors: settings.collectionColors ?? defaults.collectionColors,
    treeShows: { ...defaults.treeShows, ...settings.treeShows },
    aids: { ...defaults.aids, ...settings.aids },
    folded: settings.folded ?? defaults.folded,
    chapter: settings.chapter ?? defaults.chapter,
  };
  known = { from: settings, full };
  return full;
}

/** A file of settings, understood; a sentence where it is none. */
export function readSettings(text: string): Settings | string {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    return 'This file holds no settings: it is not JSON.';
  }
  if (typeof read !== 'object' || read === null || !('calmPivotSettings' in read))
    return 'This file holds no settings of Calm Pivot.';
  const settings = (read as { calmPivotSettings: unknown }).calmPivotSettings;
  if (typeof settings !== 'object' || settings === null || Array.isArray(settings))
    return 'The settings in this file are damaged.';
  return cleaned(settings as Record<string, unknown>);
}

const words = { theme: ['day', 'night'], chapter: ['where', 'what', 'why'] };

/** Only what is known, each of the right kind, is taken over. */
export function cleaned(raw: Record<string, unknown>): Settings {
  const clean: Record<string, unknown> = {};
  const own = defaults as unknown as Record<string, unknown>;
  const groups = ['marks', 'navigation', 'arrangement', 'numbers', 'treeShows', 'aids'];
  for (const [name, value] of Object.entries(raw)) {
    if (groups.includes(name) && typeof value === 'object' && value !== null) {
      const like = own[name] as Record<string, unknown>;
      clean[name] = Object.fromEntries(
        Object.entries(value).filter(
          ([key, v]) => key in like && (typeof v === typeof like[key] || like[key] === null),
        ),
      );
    } else if (name === 'keys' && typeof value === 'object' && value !== null) {
      clean[name] = Object.fromEntries(
        Object.entries(value).filter(([, v]) => Array.isArray(v) && v.every((k) => typeof k === 'string')),
      );
    } else if (name === 'folded' && typeof value === 'object' && value !== null) {
      clean[name] = Object.fromEntries(
        Object.entries(value)
          .filter(([, v]) => typeof v === 'boolean')
          .slice(0, 40),
      );
    } else if (name === 'arrangements' && Array.isArray(value)) {
      clean[name] = value.filter((v) => typeof v?.name === 'string' && typeof v?.arrangement === 'object').slice(0, 20);
    } else if (name === 'theme' || name === 'chapter') {
      if (words[name].includes(value as string)) clean[name] = value;
    } else if (
      name === 'startScene' ? typeof value === 'string' : name === 'walked' || typeof value === typeof own[name]
    ) {
      if (name in own || name === 'startScene' || name === 'walked') clean[name] = value;
    }
  }
  const size = clean['handleSize'];
  if (typeof size === 'number') clean['handleSize'] = Math.max(0.5, Math.min(2.5, size));
  return clean as Settings;
}
