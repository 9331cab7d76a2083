import { ArrowLeft, ArrowRight, Download, RotateCw } from 'lucide-react';
import { api } from '../../api/client';
import type { Still } from '../../wire/apiTypes';
import { again, before, downloadStill, lookAt } from '../../acts/stills';
import { OverStage } from '../../controls/OverStage';
import { TwoPictures } from '../../controls/TwoPictures';
import { get, set, useStore } from '../../state/store';

/** A still, beside the one before it or another that is chosen. */
export function StillShown() {
  const shown = useStore((s) => s.stillShown);
  const stills = useStore((s) => s.stills);
  const scene = useStore((s) => s.scene!.id);
  const making = useStore((s) => s.making !== null);
  const still = stills.find((s) => s.id === shown?.still);
  const other = stills.find((s) => s.id === shown?.beside);
  if (!still)
    return (
      <OverStage title="Still" narrow>
        <p className="m-0 p-3 text-ink-2">This still is not there any more.</p>
      </OverStage>
    );
  const at = stills.indexOf(still);
  const step = (to: Still | undefined, word: string, Icon: typeof ArrowLeft) => (
    <button
      type="button"
      className="btn px-1.5"
      aria-label={word}
      title={word}
      disabled={!to}
      onClick={() => to && lookAt(to.id)}
    >
      <Icon size={14} aria-hidden />
    </button>
  );
  return (
    <OverStage
      title={still.name}
      remark={`revision ${still.revision} · ${still.width} × ${still.height} · ${still.passes} ${still.passes === 1 ? 'pass' : 'passes'}`}
      acts={
        <span className="flex gap-1">
          {step(stills[at - 1], 'The still before', ArrowLeft)}
          {step(stills[at + 1], 'The still after', ArrowRight)}
          <select
            className="field max-w-[180px] text-left font-sans"
            aria-label="Compared with"
            value={other?.id ?? ''}
            onChange={(e) => set({ stillShown: { still: still.id, beside: e.target.value || null } })}
          >
            <option value="">with none</option>
            {stills
              .filter((s) => s.id !== still.id)
              .toReversed()
              .map((s) => (
                <option key={s.id} value={s.id}>
                  {s.id === before(still.id) ? 'with the one before: ' : 'with '}
                  {called(s)}
                </option>
              ))}
          </select>
          <button
            type="button"
            className="btn"
            title="Make the same again, of what is there now"
            disabled={making}
            onClick={() => {
              again(still);
              if (get().making) set({ open: null });
            }}
          >
            <RotateCw size={13} aria-hidden /> Again
          </button>
          <button
            type="button"
            className="btn px-1.5"
            aria-label="Download it"
            title="Download it"
            onClick={() => downloadStill(still)}
          >
            <Download size={14} aria-hidden />
          </button>
        </span>
      }
    >
      <TwoPictures
        a={other ? api.stillAt(scene, other.id) : null}
        b={api.stillAt(scene, still.id)}
        names={[other ? called(other) : null, called(still)]}
      />
    </OverStage>
  );
}

const called = (still: Still) => `${still.name}, revision ${still.revision}, ${still.passes}×`;
