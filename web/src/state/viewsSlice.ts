import type { Shadow } from '../core/answers';
import type { Shading } from './shadings';

export type ViewName = 'free' | 'front' | 'back' | 'right' | 'left' | 'top' | 'bottom' | 'camera';

/** What a view shows and how. */
export interface ViewState {
  name: ViewName;
  /** The scene's camera that is looked through. */
  camera: string | null;
  /** Navigating moves that camera. */
  steering: boolean;
  parallel: boolean;
  shading: Shading;
  /** Shown is the picture and nothing else: no handles, no marks, nothing outside. */
  exact: boolean;
}

/** The views of the stage, and what is shown in them for the moment. */
export interface ViewsSlice {
  views: ViewState[];
  active: number;
  layout: 'one' | 'four';
  /** How much of the stage's foot the sentence covers, in pixels. */
  foot: number;
  /** Shown while a step of the history is looked at. */
  shadows: Shadow[];
  /** The corners of what a plan would add. */
  newcomers: number[][];
}

/** Nothing shown for a moment, as it is when a scene is entered. */
export const viewsAtRest = { shadows: [], newcomers: [] } satisfies Partial<ViewsSlice>;

export const viewsSlice: ViewsSlice = {
  views: (['free', 'top', 'front', 'right'] as const).map((name) => ({
    name,
    camera: null,
    steering: false,
    parallel: name !== 'free',
    shading: 'clay' as const,
    exact: false,
  })),
  active: 0,
  layout: 'one',
  foot: 92,
  ...viewsAtRest,
};
