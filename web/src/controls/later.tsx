import { useEffect, useState, type ComponentType, type ReactNode } from 'react';
import { fetched } from '../api/parts';
import { guarded } from '../acts/open';

const parts: (() => Promise<unknown>)[] = [];

/**
 * A part of the page that is fetched when it is first shown. Where it cannot be, this is said, and `leave` closes what would
 * have held it; without, it can be asked for again in its place. (React's own `lazy` keeps a failure, and takes the page
 * down with it.)
 */
export function later<P extends object>(
  fetch: () => Promise<ComponentType<P>>,
  { leave, meanwhile = null }: { leave?: () => void; meanwhile?: ReactNode } = {},
): ComponentType<P> {
  let part: ComponentType<P> | null = null;
  const bring = async () => {
    part ??= await fetched(fetch);
  };
  parts.push(bring);
  return function Later(props: P) {
    const [state, setState] = useState<'asked' | 'there' | 'away'>('asked');
    const Part = part;
    useEffect(() => {
      if (state !== 'asked') return;
      let gone = false;
      void (async () => {
        if (!part) await guarded(bring);
        if (part) setState('there');
        else if (!gone && leave) leave();
        else if (!gone) setState('away');
      })();
      return () => {
        gone = true;
      };
    }, [state]);
    if (Part) return <Part {...props} />;
    if (state !== 'away') return meanwhile;
    return (
      <p className="m-0 p-4 text-ink-2">
        This could not be fetched.{' '}
        <button type="button" className="btn" onClick={() => setState('asked')}>
          Try again
        </button>
      </p>
    );
  };
}

/** Fetches in the background what was not shown yet, so that all can be opened while the server is out of reach. */
export async function fetchAll(): Promise<void> {
  for (const bring of parts) await bring().catch(() => undefined);
}
