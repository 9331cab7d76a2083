import { makeStill, noStill, ofWhat, stillPlan } from '../../acts/stills';
import { OneOf } from '../../controls/OneOf';
import { OverStage } from '../../controls/OverStage';
import { WholeNumber } from '../../controls/WholeNumber';
import type { StillAs } from '../../state/lightSlice';
import { currentShot } from '../../state/shotsSlice';
import { get, set, useStore } from '../../state/store';
import { PartField } from './PartField';

const whose = [
  { value: 'shot', word: 'The current shot' },
  { value: 'camera', word: 'A camera' },
  { value: 'view', word: 'This view' },
] as const;
const tones = [
  { value: 'neutral', word: 'Neutral', means: 'Colours as they are, bright light rolled off softly' },
  { value: 'filmic', word: 'Filmic', means: 'More contrast, bright colours pale' },
  { value: 'none', word: 'None', means: 'The light itself, cut off at white' },
] as const;
const kinds = [
  { value: 'quick', word: 'Quick', means: 'One pass: how it is lit and framed' },
  { value: 'fine', word: 'Fine', means: 'Many passes: smooth edges, soft shadows, soft surroundings, depth of field' },
] as const;

/** What the next still is of, and how it is made; said in one sentence before it is. */
export function StillMaker() {
  const as = useStore((s) => s.stillAs);
  const part = useStore((s) => s.stillPart);
  const shot = useStore((s) => currentShot(s)?.title ?? null);
  const making = useStore((s) => s.making !== null);
  // What is picked may be the camera.
  useStore((s) => s.selection);
  const change = (some: Partial<StillAs>) => set({ stillAs: { ...get().stillAs, ...some } });
  const of = useStore((s) => ofWhat(s.stillAs.of));
  const not = noStill(of);
  const plan = not === null ? stillPlan(as) : null;
  const name = of === 'shot' ? shot : of === 'camera' && plan?.camera ? get().byId.get(plan.camera)?.name : 'this view';
  const size = plan && (plan.part ?? plan);
  const beside = [as.depth && 'its depth', as.mask && 'a mask of its objects'].filter(Boolean).join(' and ');
  return (
    <OverStage title="Make a still" narrow>
      <div className="flex min-h-0 flex-col gap-2.5 overflow-auto px-3 py-2">
        <OneOf label="Of what" value={of} choices={whose} choose={(one) => change({ of: one })} />
        <OneOf
          label="How finely"
          value={as.passes > 1 ? 'fine' : 'quick'}
          choices={kinds}
          choose={(kind) => change({ passes: kind === 'fine' ? 64 : 1 })}
        />
        <div className="grid grid-cols-[110px_1fr] items-center gap-x-2 gap-y-1.5">
          {as.passes > 1 && (
            <>
              <label className="text-ink-2" htmlFor="still-passes">
                Passes
              </label>
              <WholeNumber
                id="still-passes"
                value={as.passes}
                least={2}
                most={4096}
                choose={(passes) => passes !== null && change({ passes })}
              />
            </>
          )}
          <label className="text-ink-2" htmlFor="still-width">
            Width, in pixels
          </label>
          <span className="flex gap-1">
            <WholeNumber
              id="still-width"
              value={as.width}
              least={1}
              most={8192}
              none={plan ? String(plan.width) : ''}
              choose={(width) => change({ width })}
            />
            <button
              type="button"
              className="btn whitespace-nowrap"
              title="As wide as the camera says"
              onClick={() => change({ width: null })}
            >
              As the camera
            </button>
          </span>
          <span className="text-ink-2">Part of it, in %</span>
          <PartField part={part} of={of} />
          <span className="text-ink-2">Tones</span>
          <OneOf label="Tones" value={as.tone} choices={tones} choose={(tone) => change({ tone })} />
        </div>
        {(
          [
            ['transparent', 'transparent where nothing is'],
            ['depth', 'its depth beside it'],
            ['mask', 'a mask of its objects beside it'],
          ] as const
        ).map(([key, word]) => (
          <label key={key} className="flex items-center gap-1.5">
            <input type="checkbox" checked={as[key]} onChange={(e) => change({ [key]: e.target.checked })} />
            {word}
          </label>
        ))}
        <p className={`m-0 ${not ? 'text-refusal' : 'text-ink-2'}`} role="status" data-says>
          {not ??
            (size &&
              `Makes a ${as.passes > 1 ? 'fine' : 'quick'} still of ${name}: ${size.width} × ${size.height} pixels, ${as.passes} ${as.passes === 1 ? 'pass' : 'passes'}, by all its lamps${beside ? `, with ${beside}` : ''}. You can go on arranging.`)}
        </p>
        <button
          type="button"
          className="btn self-start border-plum font-semibold text-plum"
          disabled={plan === null || making}
          onClick={() => {
            set({ open: null });
            if (plan) void makeStill(plan);
          }}
        >
          Make it
        </button>
      </div>
    </OverStage>
  );
}
