import { isRefusal } from '../core/answers';
import { chooseSpace } from '../commands/wording';
import { DirectionsSign } from '../controls/DirectionsSign';
import { session } from '../acts/session';
import { template } from '../acts/edits';
import { get, set, useStore, type SpaceKind } from '../state/store';
import { spacesFor } from '../acts/words';
import { Word } from './Word';

/** The axes word: its menu draws, for each space, its three directions as seen now. */
export function AxesWord({ many }: { many: boolean }) {
  const verb = useStore((s) => s.verb);
  const chosen = useStore((s) => s.spaces[s.verb]);
  useStore((s) => s.marks);
  const word = spacesFor(verb).find((w) => w.kind === chosen) ?? spacesFor(verb)[1]!;
  return (
    <>
      <span>along</span>
      <Word<SpaceKind>
        label="Along whose axes"
        chosen={chosen}
        choices={() =>
          spacesFor(verb).map((w) => ({
            value: w.kind,
            word: many ? w.many : w.one,
            means: w.means,
            sign: <DirectionsSign axes={axesOf(w.kind)} view={session.picture?.viewWorld() ?? []} size={30} />,
          }))
        }
        hover={(kind) => set({ hoveredSpace: kind === 'surface' && !get().picked?.normal ? null : kind })}
        choose={(kind) => chooseSpace(kind)}
        more={chosen === 'surface' ? [{ word: 'Press another surface…', act: () => set({ picking: 'surface' }) }] : []}
      >
        {many ? word.many : word.one}
      </Word>
    </>
  );
}

/** The directions of a space for what is picked, as the core tells them; null where they are not yet known. */
function axesOf(kind: SpaceKind): number[] | null {
  if (kind === 'surface' && !get().picked?.normal) return null;
  const t = template(() => session.picture?.viewWorld() ?? [], { ...get(), hoveredSpace: kind });
  const frame = t && session.core.frame(t.edit, t.space, false);
  return frame && !isRefusal(frame) ? frame.axes : null;
}
