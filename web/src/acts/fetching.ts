import type { OutlineRow } from '../core/outline';
import { api } from '../api/client';
import { open } from './open';

/** Fetches stored geometry that is not here yet, for the core and for drawing. */
export async function fetchGeometry(scene: string, hashes: string[]): Promise<void> {
  for (const hash of hashes) {
    if (open.geometry.has(hash)) continue;
    const bytes = await api.geometry(scene, hash);
    open.geometry.set(hash, bytes);
    open.core.addGeometry(hash, bytes);
    if (bytes.length > dense) void fetchTriangles(scene, hash);
  }
}

/** Smaller geometry is indexed faster than asked for. */
const dense = 400_000;

/** The order in which its triangles are found fast; it is wanted soon, not at once. */
async function fetchTriangles(scene: string, hash: string): Promise<void> {
  try {
    const order = await api.triangles(scene, hash);
    if (open.geometry.has(hash)) open.core.indexGeometry(hash, order);
  } catch {
    // The core makes its own when it needs one.
  }
}

/** The core keeps what its open scene uses, and so does the page. */
export function forgetGeometry(used: string[]): void {
  const kept = new Set(used);
  for (const hash of open.geometry.keys()) if (!kept.has(hash)) open.geometry.delete(hash);
}

/** What an own edit made is known to the core before the server has it; what is not has to be fetched. */
export function takeMade(rows: OutlineRow[]): string[] {
  const missing = new Set<string>();
  for (const { geometry } of rows) {
    if (geometry === null || open.geometry.has(geometry)) continue;
    const bytes = open.core.knownGeometry(geometry);
    if (bytes.length > 0) open.geometry.set(geometry, bytes);
    else missing.add(geometry);
  }
  return [...missing];
}
