import { DropdownMenu, Popover, Toolbar } from 'radix-ui';
import { ChevronDown } from 'lucide-react';
import { levelCamera, showExactly, turnCamera, turnTarget } from '../../acts/cameras';
import { session } from '../../acts/session';
import { ownCamera } from '../../acts/shots';
import { floating } from '../../controls/floating';
import { Figure, type Mode } from '../../controls/Figure';
import { middleCut } from '../../controls/middleCut';
import { angle, length } from '../../controls/numbers';
import { steer } from '../../commands/looking';
import { settingsOf, type Aids } from '../../state/settings';
import { set, useStore } from '../../state/store';
import type { Stage } from '../../stage/stage';
import type { View } from '../../stage/view';

const aidWords: { aid: keyof Aids; word: string; means: string }[] = [
  { aid: 'thirds', word: 'Thirds', means: 'lines at thirds' },
  { aid: 'cross', word: 'Middle', means: 'a cross at the middle' },
  { aid: 'safe', word: 'Safe areas', means: 'for action and for titles' },
  { aid: 'horizon', word: 'Horizon', means: 'all that is level with the eye' },
  { aid: 'dim', word: 'Dimmed outside', means: 'what is not in the picture' },
];

/** What can be done with the camera that a view looks through: words beside the view's label. */
export function LookingThrough({ stage, view }: { stage: Stage; view: View }) {
  const { camera, steering, exact } = useStore((s) => s.views[view.index]!);
  useStore((s) => s.selection);
  const lead = turnTarget(camera);
  const leadName = useStore((s) => s.byId.get(lead ?? '')?.name);
  const shot = useStore((s) => s.shots.find((one) => one.id === s.shot) ?? null);
  const others = useStore((s) => s.shots.filter((one) => one.camera === camera && one.id !== s.shot).length);
  if (camera === null) return null;
  const toggle = () => {
    stage.activate(view);
    showExactly(view.index);
  };
  const shared = shot !== null && shot.camera === camera && others > 0;
  return (
    <>
      {/* First, so that it never wraps below. */}
      <Toolbar.Button
        className="btn"
        title="Back to the free view"
        onClick={() => {
          stage.activate(view);
          stage.show('free');
        }}
      >
        Leave
      </Toolbar.Button>
      <Toolbar.Button
        className={`btn ${steering ? 'border-warning text-warning' : ''}`}
        aria-pressed={steering}
        aria-label={steering ? 'Stop steering' : 'Steer the camera'}
        title="Navigating moves the camera itself"
        onClick={() => {
          stage.activate(view);
          steer(!steering);
        }}
      >
        {steering ? 'Stop steering' : 'Steer'}
      </Toolbar.Button>
      {shared && (
        <Toolbar.Button
          className={`btn ${steering ? 'border-warning text-warning' : ''}`}
          title={`${others + 1} shots are seen through this camera: what is done to it is done to all of them`}
          onClick={() => ownCamera(shot.id)}
        >
          Give this shot its own
        </Toolbar.Button>
      )}
      {!exact && (
        <>
          <Toolbar.Button
            className="btn"
            title="The camera turns about where it looks until the horizon lies level"
            onClick={() => levelCamera(camera)}
          >
            Level
          </Toolbar.Button>
          <Toolbar.Button
            className="btn"
            disabled={lead === undefined}
            title={lead === undefined ? 'Pick what it is to turn to' : `The camera turns to ${leadName}, once`}
            onClick={() => turnCamera(camera)}
          >
            Turn to {leadName === undefined ? 'the picked' : middleCut(leadName, 12)}
          </Toolbar.Button>
          <KeepSize camera={camera} lead={lead} />
        </>
      )}
      <PictureMenu exact={exact} toggle={toggle} />
      {exact && (
        <Toolbar.Button className="btn" onClick={toggle}>
          Back to arranging
        </Toolbar.Button>
      )}
    </>
  );
}

/** The angle and the distance of a camera, each led by the other so that a thing keeps its size. */
function KeepSize({ camera, lead }: { camera: string; lead: string | undefined }) {
  const of = useStore((s) => s.sizeOf);
  const name = useStore((s) => s.byId.get(s.sizeOf ?? '')?.name);
  return (
    <Popover.Root
      onOpenChange={(open) => {
        if (open && lead !== undefined) set({ sizeOf: lead });
      }}
    >
      <Popover.Trigger asChild>
        <Toolbar.Button
          className="btn"
          disabled={lead === undefined && name === undefined}
          title={
            lead === undefined && name === undefined
              ? 'Pick the thing that is to keep its size'
              : 'The camera goes nearer or farther while its angle changes'
          }
        >
          Keep a size <ChevronDown size={13} aria-hidden />
        </Toolbar.Button>
      </Popover.Trigger>
      <Popover.Portal container={floating()}>
        <Popover.Content
          className="menu w-60 p-3"
          align="start"
          sideOffset={4}
          aria-label="Keep the size"
          onInteractOutside={(e) => e.preventDefault()}
        >
          <p className="m-0 mb-2">
            Keep the size of <b className="font-semibold">{middleCut(name ?? 'what is picked', 28)}</b>
          </p>
          {of !== null && <SizeFigures camera={camera} of={of} />}
          <Popover.Close className="btn mt-2">Done</Popover.Close>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function SizeFigures({ camera, of }: { camera: string; of: string }) {
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  // Read anew with every change of the scene, and while one is tried.
  useStore((s) => s.lead);
  useStore((s) => s.sight);
  const about = session.core.throughCamera(camera, of);
  const fov = session.core.commonCamera([camera]).fov;
  const edit = (field: 'fov' | 'depth') => (value: number, mode: Mode) =>
    ({ do: 'keepSize', node: camera, of, [field]: value, mode }) as const;
  return (
    <div className="grid grid-cols-[92px_1fr] items-center gap-x-2 gap-y-1.5">
      <Figure word="Angle of view" unit="°" value={fov} quantity="angle" shown={angle} edit={edit('fov')} alone />
      <Figure
        word="Distance"
        unit={unit}
        value={about?.depth ?? null}
        quantity="length"
        shown={(v) => length(v, unit)}
        edit={edit('depth')}
        alone
      />
    </div>
  );
}

function PictureMenu({ exact, toggle }: { exact: boolean; toggle: () => void }) {
  const { aids } = settingsOf(useStore((s) => s.settings));
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>
        <Toolbar.Button className="btn" title="The picture alone, or what is drawn over it">
          Picture <ChevronDown size={13} aria-hidden />
        </Toolbar.Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={floating()}>
        <DropdownMenu.Content className="menu" align="start" sideOffset={4}>
          <DropdownMenu.CheckboxItem className="menu-item" checked={exact} onSelect={toggle}>
            <Dot on={exact} />
            Exactly the picture
            <span className="ml-auto pl-6 text-ink-2">no handles, nothing outside</span>
          </DropdownMenu.CheckboxItem>
          <DropdownMenu.Separator className="menu-line" />
          {aidWords.map(({ aid, word, means }) => (
            <DropdownMenu.CheckboxItem
              key={aid}
              className="menu-item"
              checked={aids[aid]}
              onSelect={(e) => {
                e.preventDefault();
                session.saveSettings({ aids: { ...aids, [aid]: !aids[aid] } });
              }}
            >
              <Dot on={aids[aid]} />
              {word}
              <span className="ml-auto pl-6 text-ink-2">{means}</span>
            </DropdownMenu.CheckboxItem>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Dot({ on }: { on: boolean }) {
  return (
    <span className="w-3 text-plum" aria-hidden>
      {on ? '●' : ''}
    </span>
  );
}
