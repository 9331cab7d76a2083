import { useMemo } from 'react';
import { api } from '../../api/client';
import { setSurroundings, trySurroundings, type SurroundingsFields } from '../../acts/lamps';
import { listPictures } from '../../acts/keptPictures';
import { guarded } from '../../acts/open';
import { session } from '../../acts/session';
import { ColourPicker } from '../../controls/ColourPicker';
import { Figure, type Mode } from '../../controls/Figure';
import { FileInput } from '../../controls/FileInput';
import { angle, factor } from '../../controls/numbers';
import { OneOf } from '../../controls/OneOf';
import { OverStage } from '../../controls/OverStage';
import { get, useStore } from '../../state/store';

const styles = [
  { value: 'even', word: 'Even', means: 'One colour from all sides' },
  { value: 'sky', word: 'Sky', means: 'One colour from above, another from below' },
  { value: 'picture', word: 'Picture', means: 'A picture that goes once round' },
] as const;

/** What lights the scene from all sides, and how bright its pictures are. */
export function SurroundingsPanel() {
  const byId = useStore((s) => s.byId);
  const sight = useStore((s) => s.sight);
  const told = useStore((s) => s.lightTold);
  const lead = useStore((s) => s.lead);
  const kept = useStore((s) => s.kept);
  const shot = useStore((s) => s.shot);
  const now = useMemo(() => session.core.surroundings(), [byId, sight, told, lead, shot]);
  const number = (field: 'strength' | 'turn' | 'exposure') => (value: number, mode: Mode) =>
    ({ do: 'setSurroundings', [field]: value, mode }) as const;
  const colour = (label: string, field: 'color' | 'ground') => (
    <>
      <span className="text-ink-2">{label}</span>
      <ColourPicker
        label={label}
        value={now[field]}
        chips={[]}
        attempt={(c) => trySurroundings({ [field]: c })}
        keep={(c) =>
          session.keep({ do: 'setSurroundings', [field]: c } as SurroundingsFields & { do: 'setSurroundings' })
        }
        leave={() => session.putBack()}
      />
    </>
  );
  const bring = (file: File) =>
    void guarded(async () => {
      const { scene } = get();
      if (!scene) return;
      const brought = await api.bringPicture(scene.id, file, file.name);
      await listPictures();
      setSurroundings({ style: 'picture', picture: brought.hash });
    });
  return (
    <OverStage title="Surroundings" narrow>
      <div className="flex flex-col gap-2 overflow-auto px-3 py-2">
        <OneOf
          label="What the surroundings are"
          value={now.style}
          choices={styles}
          choose={(style) => setSurroundings({ style })}
        />
        <div className="grid grid-cols-[110px_1fr] items-center gap-x-2 gap-y-1.5">
          {now.style !== 'picture' && colour(now.style === 'sky' ? 'From above' : 'Colour', 'color')}
          {now.style === 'sky' && colour('From below', 'ground')}
          {now.style === 'picture' && (
            <>
              <span className="text-ink-2">Picture</span>
              <span className="flex min-w-0 gap-1">
                <select
                  className="field min-w-0 flex-1 text-left font-sans"
                  aria-label="Picture of the surroundings"
                  value={now.picture ?? ''}
                  onChange={(e) => setSurroundings({ picture: e.target.value })}
                >
                  <option value="">none yet</option>
                  {now.picture && kept.every((k) => k.hash !== now.picture) && (
                    <option value={now.picture}>of the file</option>
                  )}
                  {kept.map((k) => (
                    <option key={k.hash} value={k.hash}>
                      {k.name}
                    </option>
                  ))}
                </select>
                <label className="btn cursor-pointer">
                  File…
                  <FileInput
                    aria-label="Picture of the surroundings, from a file"
                    accept="image/png,image/jpeg,image/webp"
                    chosen={bring}
                  />
                </label>
              </span>
            </>
          )}
          <Figure
            alone
            word="Strength"
            value={now.strength}
            quantity="factor"
            shown={factor}
            edit={number('strength')}
          />
          <Figure alone word="Turn" unit="°" value={now.turn} quantity="angle" shown={angle} edit={number('turn')} />
          <Figure
            alone
            word="Exposure"
            unit="stops"
            value={now.exposure}
            quantity="factor"
            shown={factor}
            edit={number('exposure')}
          />
        </div>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={now.behind} onChange={(e) => setSurroundings({ behind: e.target.checked })} />
          seen behind everything in the picture
        </label>
        {shot !== null && now.own.length > 0 && (
          <button
            type="button"
            className="btn self-start"
            title="They follow the scene again"
            onClick={() => session.keep({ do: 'takeBack', shot, nodes: ['/surroundings'], channels: now.own })}
          >
            <span aria-hidden className="h-2.5 w-2.5 bg-plum [clip-path:polygon(0_0,100%_0,100%_100%)]" />
            This shot has its own: take back {now.own.join(' and ')}
          </button>
        )}
      </div>
    </OverStage>
  );
}
