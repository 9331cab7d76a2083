import { cameraFromView } from '../../acts/cameras';
import { DropdownMenu, Toolbar } from 'radix-ui';
import { floating } from '../../controls/floating';
import { ChevronDown } from 'lucide-react';
import { commandOf, hint, run } from '../../commands';
import { shade, viewNames } from '../../commands/looking';
import { Name } from '../../controls/Name';
import { session } from '../../acts/session';
import { get, useStore, type ViewName } from '../../state/store';
import { useFrames } from '../../state/frames';
import { middleCut } from '../../controls/middleCut';
import { shadings } from '../../state/shadings';
import { LookingThrough } from '../lookingThrough/LookingThrough';
import type { Stage } from '../../stage/stage';
import type { View } from '../../stage/view';

/** What runs to the right and up (or down) in the flat views. */
const directions: Partial<Record<ViewName, string>> = {
  front: 'X → · Y ↑',
  back: 'X ← · Y ↑',
  right: 'Z ← · Y ↑',
  left: 'Z → · Y ↑',
  top: 'X → · Z ↓',
  bottom: 'X → · Z ↑',
};

const sides: Exclude<ViewName, 'camera'>[] = ['free', 'front', 'back', 'right', 'left', 'top', 'bottom'];

/** A view's label: a press shows it alone or among four; beside it, what it shows and how, and framing. */
export function ViewMenu({ stage, view }: { stage: Stage; view: View }) {
  const state = useStore((s) => s.views[view.index]!);
  const layout = useStore((s) => s.layout);
  const picked = useStore((s) => s.selection.length > 0);
  const camera = useStore((s) => (state.camera === null ? null : (s.byId.get(state.camera)?.name ?? 'Camera')));
  const threads = useStore((s) => s.allThreads);
  const shot = useStore((s) => s.shot);
  const asInShot = useStore((s) => s.asInShot);
  const spacing = useFrames((s) => s.spacing);
  const wide = layout === 'one';
  const name = camera === null ? viewNames[state.name] : middleCut(camera, 22);
  const on = (act: () => void) => () => {
    stage.activate(view);
    act();
  };
  return (
    <Toolbar.Root
      className={`absolute left-3 flex max-w-full flex-wrap gap-1.5 ${shot !== null && camera !== null ? 'top-[30px]' : 'top-3'}`}
      aria-label={`View: ${name}`}
    >
      <span className="flex">
        <Toolbar.Button
          className="btn rounded-r-none"
          title={`${wide ? 'Show four views' : 'Show this view alone'}${hint('view.four')}`}
          onClick={() => stage.arrange(wide ? 'four' : 'one', view.index)}
        >
          <b className="font-semibold">{name}</b>
          {directions[state.name] && <span className="font-mono text-[11px] text-ink-2">{directions[state.name]}</span>}
        </Toolbar.Button>
        <DropdownMenu.Root modal={false}>
          <DropdownMenu.Trigger asChild>
            <Toolbar.Button
              className="btn -ml-px rounded-l-none px-1.5"
              aria-label={`What ${name} shows`}
              title="What this view shows"
            >
              <ChevronDown size={13} aria-hidden />
            </Toolbar.Button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal container={floating()}>
            <DropdownMenu.Content className="menu" align="start" sideOffset={4}>
              {sides.map((side) => (
                <DropdownMenu.Item key={side} className="menu-item" onSelect={on(() => stage.show(side))}>
                  <Chosen on={state.name === side} />
                  {viewNames[side]}
                  <Key id={`view.${side}`} />
                </DropdownMenu.Item>
              ))}
              <Cameras stage={stage} view={view} />
              <DropdownMenu.Separator className="menu-line" />
              <DropdownMenu.Item
                className="menu-item"
                disabled={camera !== null}
                onSelect={on(() => stage.toggleParallel())}
              >
                <Chosen on={false} />
                {state.parallel ? 'Draw in perspective' : 'Draw in parallel'}
                <Key id="view.parallel" />
              </DropdownMenu.Item>
              {shot !== null && (
                <DropdownMenu.Item
                  className="menu-item"
                  title="Leave out here what the picture of the shot leaves out"
                  onSelect={on(() => run(commandOf('shot.as'), stage))}
                >
                  <Chosen on={asInShot} />
                  As in the shot
                </DropdownMenu.Item>
              )}
              <DropdownMenu.Item
                className="menu-item"
                title="What every constraint of the scene goes by, not only of what is picked"
                onSelect={on(() => run(commandOf('threads.all'), stage))}
              >
                <Chosen on={threads} />
                All threads
                <Key id="threads.all" />
              </DropdownMenu.Item>
              <DropdownMenu.Separator className="menu-line" />
              <DropdownMenu.Item className="menu-item" onSelect={on(() => stage.stepView(-1))}>
                <Chosen on={false} />
                Previous view
                <Key id="view.previous" />
              </DropdownMenu.Item>
              <DropdownMenu.Item className="menu-item" onSelect={on(() => stage.toStart())}>
                <Chosen on={false} />
                Back to the view’s start
                <Key id="view.start" />
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </span>
      <Shadings stage={stage} view={view} />
      <LookingThrough stage={stage} view={view} />
      {wide && camera === null && (
        <Toolbar.Button
          className="btn"
          title={picked ? `Frame what is picked${hint('view.frame')}` : `Frame everything${hint('view.frameAll')}`}
          onClick={() => stage.frame(picked ? get().selection : null, true)}
        >
          {picked ? 'Frame picked' : 'Frame all'}
        </Toolbar.Button>
      )}
      {wide && camera === null && (
        <span className="btn pointer-events-none" title="Between two dots of the ground">
          Dots {distance(spacing)}
        </span>
      )}
    </Toolbar.Root>
  );
}

function Shadings({ stage, view }: { stage: Stage; view: View }) {
  const shading = useStore((s) => s.views[view.index]!.shading);
  const parallel = useStore((s) => s.views[view.index]!.parallel);
  const collections = useStore((s) => s.collections.length > 0);
  const colors = useStore((s) => s.settings.collectionColors === true);
  const word = shadings.find((s) => s.shading === shading)!.word;
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>
        <Toolbar.Button className="btn" aria-label={`Shading: ${word}`} title="How this view is shaded">
          <span className="text-ink-2">
            {parallel ? 'parallel · ' : ''}
            {word}
          </span>
          <ChevronDown size={13} aria-hidden />
        </Toolbar.Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={floating()}>
        <DropdownMenu.Content className="menu" align="start" sideOffset={4}>
          {shadings.map((s) => (
            <DropdownMenu.Item
              key={s.shading}
              className="menu-item"
              onSelect={() => shade(stage, s.shading, view.index)}
            >
              <Chosen on={s.shading === shading} />
              <span className="font-semibold">{s.word}</span>
              <span className="ml-auto pl-6 text-ink-2">{s.means}</span>
            </DropdownMenu.Item>
          ))}
          {collections && (
            <>
              <DropdownMenu.Separator className="menu-line" />
              <DropdownMenu.CheckboxItem
                className="menu-item"
                checked={colors}
                onSelect={() => session.saveSettings({ collectionColors: !colors })}
              >
                <Chosen on={colors} />
                Members in the colours of their collections
              </DropdownMenu.CheckboxItem>
            </>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Cameras({ stage, view }: { stage: Stage; view: View }) {
  const rows = useStore((s) => s.rows);
  const present = useStore((s) => s.views[view.index]!.camera);
  const cameras = rows.filter((r) => r.kind === 'camera').slice(0, 40);
  return (
    <>
      <DropdownMenu.Separator className="menu-line" />
      <DropdownMenu.Item
        className="menu-item"
        onSelect={() => {
          stage.activate(view);
          cameraFromView();
        }}
      >
        <Chosen on={false} />
        Camera from this view
      </DropdownMenu.Item>
      {cameras.length > 0 && <DropdownMenu.Label className="px-2.5 py-1 text-ink-2">Look through</DropdownMenu.Label>}
      {cameras.map(({ id, name }) => (
        <DropdownMenu.Item
          key={id}
          className="menu-item"
          onSelect={() => {
            stage.activate(view);
            stage.through(id);
          }}
        >
          <Chosen on={id === present} />
          <Name text={name} className="max-w-64" />
        </DropdownMenu.Item>
      ))}
    </>
  );
}

function Chosen({ on }: { on: boolean }) {
  return (
    <span className="w-3 text-plum" aria-hidden>
      {on ? '●' : ''}
    </span>
  );
}

function Key({ id }: { id: string }) {
  return <span className="ml-auto pl-6 font-mono text-[11px] text-ink-2">{hint(id).slice(2, -1)}</span>;
}

function distance(metres: number): string {
  return metres >= 1
    ? `${metres} m`
    : metres >= 0.01
      ? `${Math.round(metres * 100)} cm`
      : `${Math.round(metres * 1000)} mm`;
}
