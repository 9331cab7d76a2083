import { pointerNumber, snapKind, snapSource, triedLine, triedNumber } from '../wire/bridgeTypes';
import type { SnapKind, Tried, Vec3 } from './answers';

/** How a drag snaps, with what lies near the pointer; the core decides. */
export interface SnapAsk {
  kinds: SnapKind[];
  /** Triangles near the pointer, nine numbers each, of the objects in these slots. */
  near: { slot: number; triangles: number[] }[];
  /** Pixels. */
  radius: number;
  focal: number;
  grid: number;
  source: 'pivot' | 'corner' | 'picked';
  turn: boolean;
  next: number;
  from: Vec3 | null;
}

/** A move of the pointer, in numbers only: it is made at every picture. Used again and again. */
const pointer: number[] = Array.from({ length: pointerNumber.count }, () => 0);

/** Writes a move of the pointer as the core reads it. The list holds until the next move. */
export function pointerOf(ray: number[], fine: boolean, step: number, onGrid: boolean, snap: SnapAsk | null): number[] {
  for (let i = 0; i < 6; i++) pointer[pointerNumber.ray + i] = ray[i]!;
  pointer[pointerNumber.fine] = Number(fine);
  pointer[pointerNumber.step] = step;
  pointer[pointerNumber.onGrid] = Number(onGrid);
  pointer[pointerNumber.snapKinds] = snap ? snap.kinds.reduce((bits, kind) => bits | (1 << snapKind[kind]), 0) : 0;
  if (!snap) return pointer;
  pointer[pointerNumber.snapRadius] = snap.radius;
  pointer[pointerNumber.snapFocal] = snap.focal;
  pointer[pointerNumber.snapGrid] = snap.grid;
  pointer[pointerNumber.snapSource] = snapSource[snap.source];
  pointer[pointerNumber.snapTurn] = Number(snap.turn);
  pointer[pointerNumber.snapNext] = snap.next;
  pointer[pointerNumber.snapFrom] = Number(snap.from !== null);
  for (let i = 0; i < 3; i++) pointer[pointerNumber.snapFrom + 1 + i] = snap.from?.[i] ?? 0;
  return pointer;
}

const kinds = Object.keys(snapKind) as SnapKind[];

/** The answer to a move of the pointer, from its numbers and its lines of words. */
export function triedOf(numbers: Float64Array, text: string): Tried {
  const at = (place: number): Vec3 => [numbers[place]!, numbers[place + 1]!, numbers[place + 2]!];
  const lines = text.split('\n');
  const line = (name: keyof typeof triedLine) => lines[triedLine[name]] || null;
  return {
    reading: {
      amount: line('amount') ?? '',
      from: line('from') ?? '',
      to: line('to') ?? '',
      warning: line('warning'),
    },
    amount: at(triedNumber.amount),
    refused: line('refusalWord') ? { refusal: line('refusalWord')!, detail: line('refusalDetail') ?? '' } : null,
    lead:
      numbers[triedNumber.lead] === 0
        ? null
        : {
            placement: {
              position: at(triedNumber.position),
              rotation: at(triedNumber.rotation),
              scale: at(triedNumber.scale),
              shear: at(triedNumber.shear),
              pivot: at(triedNumber.pivot),
              pivotTurn: at(triedNumber.pivotTurn),
            },
            pivotInWorld: at(triedNumber.pivotInWorld),
            liningUp: numbers[triedNumber.liningUp]!,
          },
    caught:
      numbers[triedNumber.caught] === 0
        ? null
        : {
            kind: kinds[numbers[triedNumber.caughtKind]!]!,
            words: line('caught') ?? '',
            point: at(triedNumber.caughtPoint),
            normal: numbers[triedNumber.hasNormal] === 0 ? null : at(triedNumber.caughtNormal),
            inReach: numbers[triedNumber.inReach]!,
          },
  };
}
