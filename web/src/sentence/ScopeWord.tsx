import { enterShot, setNarrow } from '../acts/shots';
import { currentShot } from '../state/shotsSlice';
import { useStore } from '../state/store';
import { Word } from './Word';

/** Where edits are made: said first when it is one shot alone, else last; nothing where no shot is current. */
export function ScopeWord({ first }: { first: boolean }) {
  const shot = useStore(currentShot);
  const narrow = useStore((s) => s.narrow);
  if (!shot || narrow !== first) return null;
  const word = (
    <Word<'every' | 'shot' | 'none'>
      label="In which shots"
      chosen={narrow ? 'shot' : 'every'}
      choices={() => [
        {
          value: 'every',
          word: 'in every shot',
          means: 'Edits are made in the scene; shots that have their own keep it',
        },
        {
          value: 'shot',
          word: `in ${shot.title} only`,
          means: 'Edits become values of this shot; the scene stays as it is',
        },
        { value: 'none', word: 'with no shot', means: 'Leave the shot and arrange the scene itself' },
      ]}
      choose={(scope) => (scope === 'none' ? enterShot(null) : setNarrow(scope === 'shot'))}
    >
      {narrow ? shot.title : 'every shot'}
    </Word>
  );
  return narrow ? (
    <span className="flex items-center gap-1.5 whitespace-nowrap text-plum">In {word} only:</span>
  ) : (
    <span className="flex items-center gap-1.5 whitespace-nowrap">
      <span aria-hidden>·</span> in {word}
    </span>
  );
}
