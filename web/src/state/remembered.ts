import type { SpaceKind, AboutKind, PageState, ViewState } from './store';
import { get, useStore } from './store';

/** How a view looked: what it showed, and from where. */
export interface ViewMemory extends Omit<ViewState, 'steering'> {
  target: number[];
  turn: number[];
  distance: number;
}

/** What a person was about in a scene; a reload goes on with it. Kept in this browser. */
export interface Memory {
  selection: string[];
  isolation: PageState['isolation'];
  verb: PageState['verb'];
  handlesOn: boolean;
  axes: PageState['axes'];
  spaces: PageState['spaces'];
  abouts: PageState['abouts'];
  stepSizes: PageState['stepSizes'];
  layout: PageState['layout'];
  active: number;
  views: ViewMemory[];
  /** The current shot. */
  shot: string | null;
}

const keyOf = (scene: string) => `at-work ${scene}`;

/** More picked than this is not worth keeping. */
const most = 2000;

export function recall(scene: string): Partial<Memory> | null {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(keyOf(scene)) ?? 'null');
    return typeof kept === 'object' && kept !== null ? (kept as Partial<Memory>) : null;
  } catch {
    return null;
  }
}

/** What of the memory still holds in the scene as it is now. */
export function fitting(memory: Partial<Memory>, state: PageState): Partial<PageState> {
  const { byId } = state;
  const there = (id: unknown): id is string => typeof id === 'string' && byId.has(id);
  const known = (kind: SpaceKind | AboutKind) => !kind.startsWith('mark:') || byId.has(kind.slice(5));
  const isolated = memory.isolation?.ids.filter(there) ?? [];
  const kinds = <T extends Record<string, SpaceKind | AboutKind>>(now: T, then: T | undefined): T =>
    Object.fromEntries(
      Object.entries(now).map(([of, kind]) => {
        const kept = then?.[of];
        // A picked direction or point lasts as long as its selection, and no longer than the page.
        return [of, kept && kept !== 'surface' && kept !== 'point' && known(kept) ? kept : kind];
      }),
    ) as T;
  return {
    selection: (memory.selection ?? []).filter((id) => there(id) && byId.get(id)!.kind !== 'collection'),
    isolation: isolated.length > 0 ? { ...memory.isolation!, ids: isolated } : null,
    verb: memory.verb ?? state.verb,
    handlesOn: memory.handlesOn ?? state.handlesOn,
    axes: { ...state.axes, ...memory.axes },
    spaces: kinds(state.spaces, memory.spaces),
    abouts: kinds(state.abouts, memory.abouts),
    stepSizes: { ...state.stepSizes, ...memory.stepSizes },
  };
}

let waiting: ReturnType<typeof setTimeout> | undefined;
let looks: () => ViewMemory[] = () => [];

/** The stage tells how its views look. */
export function looksBy(tell: () => ViewMemory[]): void {
  looks = tell;
}

/** Keeps what the person is about, a little later. */
export function remember(): void {
  clearTimeout(waiting);
  waiting = setTimeout(rememberNow, 500);
}

function rememberNow(): void {
  clearTimeout(waiting);
  const { scene, selection, isolation, verb, handlesOn, axes, spaces, abouts, stepSizes, layout, active, shot } = get();
  const views = looks();
  if (!scene || views.length === 0) return;
  const memory: Memory = {
    selection: selection.length <= most ? selection : [],
    isolation: isolation && isolation.ids.length <= most ? isolation : null,
    verb,
    handlesOn,
    axes,
    spaces,
    abouts,
    stepSizes,
    layout,
    active,
    views,
    shot,
  };
  try {
    localStorage.setItem(keyOf(scene.id), JSON.stringify(memory));
  } catch {
    // A browser that stores nothing only forgets it.
  }
}

const kept = [
  'shot',
  'selection',
  'isolation',
  'verb',
  'handlesOn',
  'axes',
  'spaces',
  'abouts',
  'stepSizes',
  'views',
  'layout',
  'active',
] as const;

useStore.subscribe((now, before) => {
  if (now.scene?.id === before.scene?.id && kept.some((k) => now[k] !== before[k])) remember();
});
if (typeof window !== 'undefined') window.addEventListener('pagehide', rememberNow);
