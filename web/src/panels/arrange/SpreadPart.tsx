import type { Edit } from '../../core/answers';
import { useState } from 'react';
import { spaceOf } from '../../acts/edits';
import { session } from '../../acts/session';
import { get, useStore, type SpaceKind } from '../../state/store';

import { Few, KeepRow, usePreview } from './preview';

/** Puts equal room between things, or equal steps between their pivots. */
export function SpreadPart() {
  const selection = useStore((s) => s.selection);
  const [along, setAlong] = useState<'x' | 'y' | 'z' | 'line'>('x');
  const [equal, setEqual] = useState<'gaps' | 'pivots'>('gaps');
  const [space, setSpace] = useState<SpaceKind>('world');
  const edit: Edit | null =
    selection.length >= session.core.limits.spread
      ? {
          do: 'spread',
          nodes: selection,
          along,
          equal,
          space: spaceOf(space, get(), () => session.picture?.viewWorld() ?? []),
        }
      : null;
  usePreview(edit);
  return (
    <div>
      {selection.length < session.core.limits.spread && (
        <p className="m-0 mb-2 text-ink-2">Pick three objects or more; the two ends stay.</p>
      )}
      <Few
        label="Along"
        value={along}
        choices={[
          ['x', 'X'],
          ['y', 'Y'],
          ['z', 'Z'],
          ['line', 'first to last'],
        ]}
        choose={setAlong}
      />
      <Few
        label="Equal"
        value={equal}
        choices={[
          ['gaps', 'equal gaps'],
          ['pivots', 'equal steps of pivots'],
        ]}
        choose={setEqual}
      />
      {along !== 'line' && (
        <Few
          label="Axes"
          value={space}
          choices={[
            ['world', "the world's"],
            ['lead', "the lead's"],
            ['view', "the view's"],
          ]}
          choose={setSpace}
        />
      )}
      <KeepRow edit={edit} what="Spread" />
    </div>
  );
}
