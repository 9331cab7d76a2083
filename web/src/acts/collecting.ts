import { get, set } from '../state/store';
import { startPlan } from './planning';
import { newCollectionOf } from './plans';
import { session } from './session';
import { usedCollection, lastCollection } from './lastCollection';

/** Makes a collection of what is picked, ready to be named. */
export function newCollection(under: string | null = null): void {
  const id = crypto.randomUUID();
  if (!session.keep(newCollectionOf(id, get(), under))) return;
  usedCollection(id);
  set({ renaming: id });
}

/** Says in the sentence that the picked go into the collection used last, or into a new one. */
export function startCollecting(): void {
  const { byId, collections } = get();
  const last = lastCollection();
  const known = last !== null && byId.get(last)?.kind === 'collection';
  startPlan({
    kind: 'collect',
    collection: known ? last : (collections[0]?.id ?? null),
    member: true,
  });
}

export function collect(collection: string, nodes: string[], member: boolean): void {
  usedCollection(collection);
  if (nodes.length === 0) session.say({ kind: 'info', text: 'Pick the objects first.' });
  else session.keep({ do: 'collect', nodes, collection, member });
}
