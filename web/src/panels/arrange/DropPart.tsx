import type { Edit, Vec3 } from '../../core/answers';
import { useState } from 'react';
import { useStore } from '../../state/store';

import { Few, KeepRow, usePreview } from './preview';

/** Lets things come to rest on what lies below. */
export function DropPart() {
  const selection = useStore((s) => s.selection);
  const [by, setBy] = useState<'lowest' | 'pivot'>('lowest');
  const [as, setAs] = useState<'each' | 'block'>('each');
  const [way, setWay] = useState<'down' | 'x' | '-x' | 'z' | '-z' | 'up'>('down');
  const ways: Record<typeof way, Vec3 | undefined> = {
    down: undefined,
    up: [0, 1, 0],
    x: [1, 0, 0],
    '-x': [-1, 0, 0],
    z: [0, 0, 1],
    '-z': [0, 0, -1],
  };
  const edit: Edit = { do: 'drop', nodes: selection, by, as, along: ways[way] };
  usePreview(edit);
  return (
    <div>
      <Few
        label="Direction"
        value={way}
        choices={[
          ['down', 'down'],
          ['up', 'up'],
          ['x', '+X'],
          ['-x', '−X'],
          ['z', '+Z'],
          ['-z', '−Z'],
        ]}
        choose={setWay}
      />
      <Few
        label="By"
        value={by}
        choices={[
          ['lowest', 'where it touches first'],
          ['pivot', 'by its pivot'],
        ]}
        choose={setBy}
      />
      {selection.length > 1 && (
        <Few
          label="As"
          value={as}
          choices={[
            ['each', 'one by one'],
            ['block', 'as one block'],
          ]}
          choose={setAs}
        />
      )}
      <KeepRow edit={edit} what="Drop" />
    </div>
  );
}
