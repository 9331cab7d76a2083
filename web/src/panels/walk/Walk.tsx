import { useEffect } from 'react';
import { hint } from '../../commands';
import { session } from '../../acts/session';
import { set, useStore, type PageState } from '../../state/store';
import { startWalk } from '../../acts/firstWalk';
import type { Stage } from '../../stage/stage';

/** A step of the first walk: what to do, and how the page sees that it has been done. */
interface WalkStep {
  text: () => string;
  done: (now: PageState, begin: PageState, view: { now: string; begin: string }) => boolean;
}

const steps: WalkStep[] = [
  {
    text: () => 'Look around: hold the right button (or Alt and the left) and drag. The wheel comes nearer.',
    done: (_now, _begin, view) => view.now !== view.begin,
  },
  {
    text: () => 'Pick the Moon arm: press on the small arm beside the blue-green planet, or on its name in the tree.',
    done: (now) => now.selection.at(-1) === 'moon-arm',
  },
  {
    text: () => `Read the sentence below. Choose its verb Rotate${hint('verb.rotate')}: the handles change with it.`,
    done: (now) => now.verb === 'rotate' && now.handlesOn,
  },
  {
    text: () => 'Turn it: drag the green arc, or type 15 and Enter. The planet’s moon rides along.',
    done: (now, begin) =>
      now.verb === 'rotate' && now.stepNumber !== null && now.stepNumber !== begin.stepNumber && now.waiting === 0,
  },
  {
    text: () => `Take it back: Undo${hint('undo')}. Everything can be taken back, also tomorrow.`,
    done: (now) => (now.notice?.text ?? '').startsWith('Undone'),
  },
];

let beginState: PageState | null = null;
let beginView = '';

/** The first walk: five steps on the demo scene, done by doing; can be left at any time and started again. */
export function Walk({ stage }: { stage: () => Stage | null }) {
  const at = useStore((s) => s.walk);
  const offered = useStore((s) => s.ready && s.walk === null && !s.settings.walked && s.scene?.id === 'orrery-room');
  const eye = () => {
    const look = stage()?.views[0]?.eye.look;
    return look ? JSON.stringify([look.turn.toArray(), look.distance]) : '';
  };

  useEffect(() => {
    if (at === null) return;
    beginState = useStore.getState();
    beginView = eye();
    const look = setInterval(check, 250);
    const stop = useStore.subscribe(check);
    function check() {
      const now = useStore.getState();
      if (now.walk !== at || !steps[at!]!.done(now, beginState!, { now: eye(), begin: beginView })) return;
      if (at! + 1 < steps.length) set({ walk: at! + 1 });
      else leave('That was it. Find anything (Ctrl+K) knows all the rest.');
    }
    return () => {
      clearInterval(look);
      stop();
    };
  }, [at]);

  if (at === null && !offered) return null;
  return (
    <section
      className="absolute top-14 left-1/2 z-20 w-[380px] max-w-[90%] -translate-x-1/2 rounded-xl border border-plum bg-paper p-3 shadow-float"
      aria-label="First walk"
      data-over-stage
    >
      {at === null ? (
        <>
          <p className="m-0 mb-2">New here? Five small steps show how Calm Pivot works, on this very scene.</p>
          <div className="flex justify-end gap-2">
            <button
              type="button"
              className="btn"
              onClick={() => leave('The first walk is in Find anything (Ctrl+K) whenever you want it.')}
            >
              Not now
            </button>
            <button type="button" className="btn border-plum bg-plum text-on-plum" onClick={() => void startWalk()}>
              Start the walk
            </button>
          </div>
        </>
      ) : (
        <>
          <p className="m-0 mb-2" role="status">
            <b className="mr-2 font-mono text-[11.5px] text-plum">
              {at + 1} of {steps.length}
            </b>
            {steps[at]!.text()}
          </p>
          <div className="flex items-center justify-between">
            <span className="flex gap-1" aria-hidden>
              {steps.map((_, i) => (
                <span key={i} className={`h-1.5 w-6 rounded-full ${i <= at ? 'bg-plum' : 'bg-line'}`} />
              ))}
            </span>
            <span className="flex gap-2">
              <button
                type="button"
                className="btn-quiet"
                onClick={() => (at + 1 < steps.length ? set({ walk: at + 1 }) : leave(null))}
              >
                Skip
              </button>
              <button
                type="button"
                className="btn"
                onClick={() => leave('The first walk is in Find anything (Ctrl+K) whenever you want it.')}
              >
                Leave
              </button>
            </span>
          </div>
        </>
      )}
    </section>
  );
}

function leave(word: string | null): void {
  set({ walk: null });
  session.saveSettings({ walked: true });
  if (word) session.say({ kind: 'info', text: word });
}
