import type { About, Edit, Space } from '../core/answers';
import { get, type AboutKind, type PageState, type SpaceKind } from '../state/store';

/** The edit that the next drag or typed number will make: the sentence, as the API writes it, with no amount yet. */
export interface Template {
  edit: Edit;
  space: Space;
}

const axisNames = ['x', 'y', 'z'] as const;

export function spaceOf(kind: SpaceKind, state: PageState, viewWorld: () => number[]): Space {
  if (kind.startsWith('mark:')) return { kind: 'mark', mark: kind.slice(5) };
  switch (kind) {
    case 'view':
      return { kind, world: viewWorld() };
    case 'surface':
      return state.picked?.normal ? { kind, y: state.picked.normal } : { kind: 'world' };
    default:
      return { kind } as Space;
  }
}

export function aboutOf(kind: AboutKind, state: PageState): About {
  if (kind.startsWith('mark:')) return { kind: 'mark', mark: kind.slice(5) };
  if (kind !== 'point') return { kind } as About;
  return state.picked ? { kind, at: state.picked.point } : { kind: 'own' };
}

export function template(viewWorld: () => number[], state: PageState = get()): Template | null {
  const nodes = state.selection;
  if (nodes.length === 0) return null;
  const space = spaceOf(state.hoveredSpace ?? state.spaces[state.verb], state, viewWorld);
  const children = state.childrenStay ? 'stay' : 'along';
  const axes = state.axes[state.verb];
  const effect = state.placesOnly && nodes.length > 1 ? 'places' : 'whole';
  switch (state.verb) {
    case 'move':
      return { space, edit: { do: 'move', nodes, by: [0, 0, 0], space, children } };
    case 'rotate': {
      const channels = (state.hoveredSpace ?? state.spaces.rotate) === 'channels';
      const about: About = channels ? { kind: 'own' } : aboutOf(state.hoveredAbout ?? state.abouts.rotate, state);
      const axis = axisNames[axes.indexOf(true)] ?? 'y';
      return {
        space,
        edit: { do: 'rotate', nodes, by: 0, axis, space, about, children, effect: channels ? 'whole' : effect },
      };
    }
    case 'scale': {
      const about = aboutOf(state.hoveredAbout ?? state.abouts.scale, state);
      const given = axisNames.filter((_, i) => axes[i]);
      const keepVolume = state.keepVolume && given.length < 3 ? { given } : undefined;
      return { space, edit: { do: 'scale', nodes, by: [1, 1, 1], space, about, children, keepVolume, effect } };
    }
    case 'pivot':
      return { space, edit: { do: 'movePivot', nodes, keep: state.pivotNumbers ? 'numbers' : 'world' } };
  }
}

export function quantityOf(verb: PageState['verb']): 'length' | 'angle' | 'factor' {
  return verb === 'rotate' ? 'angle' : verb === 'scale' ? 'factor' : 'length';
}
