import { triedNumber } from '../wire/bridgeTypes';
import type { Runtime } from './boot';
import type { Exports } from './exports';

/**
 * The core's memory, read in place: numbers that are asked for at every picture and every move of the pointer. A view holds
 * until the next call that may allocate, so it is never kept.
 */
export class Memory {
  constructor(
    private readonly runtime: Runtime,
    private readonly exports: Exports,
  ) {}

  /** All world matrices, twelve numbers a slot, row by row. */
  worlds(): Float64Array {
    const from = this.exports.WorldsAddress() / 8;
    return this.runtime.localHeapViewF64().subarray(from, from + this.exports.SlotCount() * 12);
  }

  /** The slots that the last try changed. */
  changed(): Int32Array {
    const from = this.exports.ChangedAddress() / 4;
    return this.runtime.localHeapViewI32().subarray(from, from + this.exports.ChangedCount());
  }

  /** What is seen, sixteen bits a slot (sightBits); a copy. */
  sight(): Uint16Array {
    const from = this.exports.SightAddress() / 2;
    return this.runtime.localHeapViewU16().slice(from, from + this.exports.SlotCount());
  }

  /** The answer to the last move of the pointer, as triedNumber names its places. */
  tried(): Float64Array {
    const from = this.exports.TriedAddress() / 8;
    return this.runtime.localHeapViewF64().subarray(from, from + triedNumber.count);
  }
}
