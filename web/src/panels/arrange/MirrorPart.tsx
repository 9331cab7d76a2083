import { useState } from 'react';
import { mirror } from '../../commands/placing';
import { useStore } from '../../state/store';

import { Few, KeepRow, usePreview } from './preview';

/** Makes a mirror image across the plane of the sentence. */
export function MirrorPart() {
  const [axis, setAxis] = useState<'x' | 'y' | 'z'>('x');
  const [how, setHow] = useState<'mirror' | 'turn'>('mirror');
  const words = useStore((s) => JSON.stringify([s.selection, s.spaces[s.verb], s.abouts, s.picked]));
  void words;
  const edit = mirror(axis, how, false);
  usePreview(edit);
  return (
    <div>
      <p className="m-0 mb-2 text-ink-2">Across the sentence’s axes, about its point.</p>
      <Few
        label="Across"
        value={axis}
        choices={[
          ['x', 'X'],
          ['y', 'Y'],
          ['z', 'Z'],
        ]}
        choose={setAxis}
      />
      <Few
        label="How"
        value={how}
        choices={[
          ['mirror', 'a true mirror image'],
          ['turn', 'position and heading only'],
        ]}
        choose={setHow}
      />
      <KeepRow edit={edit} what="Mirror" />
    </div>
  );
}
