import { enterShot, shotFromView } from '../../acts/shots';
import { CardRow, NewCard } from '../../controls/CardRow';
import type { Stage } from '../../stage/stage';
import { useStore } from '../../state/store';
import { hint } from '../../commands';
import { ShotCard } from './ShotCard';

/** The drawer of shots: a card a shot in the artist's order, the first one for none. */
export function ShotsDrawer({ stage }: { stage: () => Stage | null }) {
  const shots = useStore((s) => s.shots);
  const current = useStore((s) => s.shot);
  return (
    <div className="flex h-full min-w-0 flex-1 items-stretch gap-1.5 px-1.5 py-1.5" role="group" aria-label="Shots">
      <button
        type="button"
        aria-pressed={current === null}
        onClick={() => enterShot(null)}
        className={`flex w-[58px] shrink-0 flex-col items-center justify-center gap-0.5 rounded-lg border text-center leading-tight ${current === null ? 'border-2 border-plum bg-wash' : 'border-line hover:border-edge'}`}
        title="Arrange the scene itself, with no shot current"
      >
        <b className="font-semibold">All</b>
        <span className="text-ink-2">no shot</span>
      </button>
      <CardRow
        of="shots"
        items={shots}
        wide={110}
        none=""
        current={shots.findIndex((s) => s.id === current)}
        card={(shot, index) => <ShotCard shot={shot} index={index} stage={stage} />}
      />
      <NewCard
        word="Shot of this view"
        means={`A camera where this view is, and a shot that is seen through it${hint('shot.new')}`}
        act={() => shotFromView()}
      />
    </div>
  );
}
