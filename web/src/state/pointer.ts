import { create } from 'zustand';
import type { Vec3 } from '../core/answers';
import { onRenewal } from './renewal';

/** What the pointer does on the stage at this moment; apart from the page's state, since it changes with every move. */
export interface PointerState {
  hovered: { id: string; x: number; y: number } | null;
  /** Several things under the pointer, near to far, at a place of the stage. */
  list: { ids: string[]; x: number; y: number } | null;
  /** A box that is being drawn, on the stage. */
  box: { x: number; y: number; width: number; height: number; whole: boolean; count: number | null } | null;
  /** Where a menu was asked for, and the point of the scene there; asked by key, none. */
  menu: { x: number; y: number; point: Vec3 | null } | null;
}

export const usePointer = create<PointerState>(() => ({ hovered: null, list: null, box: null, menu: null }));

export const pointer = usePointer.getState;
export const setPointer = usePointer.setState;

onRenewal(() => usePointer.setState(usePointer.getInitialState()));
