import { useEffect, useState, type ComponentType, type ReactNode } from 'react';
import { fetched } from '../api/parts';
import { guarded } from '../acts/open';

const parts: (() => Promise<unknown>)[] = [];

/**
 * A part of the page that is fetched when it is first shown. Where it cannot be, this is said and `leave` closes what would
 * have held it; shown again, it is asked for again. (React's own `lazy` keeps a failure, and takes the page down with it.)
 */
export function later<P extends object>(
  fetch: () => Promise<ComponentType<P>>,
  leave: () => void,
  meanwhile: ReactNode = null,
): ComponentType<P> {
  let part: ComponentType<P> | null = null;
  const bring = async () => {
    part ??= await fetched(fetch);
  };
  parts.push(bring);
  return function Later(props: P) {
    const [, came] = useState(part !== null);
    const Part = part;
    useEffect(() => {
      if (part) came(true);
      else void guarded(bring).then(() => (part ? came(true) : leave()));
    }, []);
    return Part ? <Part {...props} /> : meanwhile;
  };
}

/** Fetches in the background what was not shown yet, so that all can be opened while the server is out of reach. */
export async function fetchAll(): Promise<void> {
  for (const bring of parts) await bring().catch(() => undefined);
}
