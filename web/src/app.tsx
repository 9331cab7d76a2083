import { useCallback, useEffect, useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import { arrange } from './commands/page';
import { listen } from './keys/keys';
import { Chapters } from './panels/chapters/Chapters';
import { FindAnything } from './panels/find/FindAnything';
import { RunThrough } from './panels/running/RunThrough';
import { StepsPanel } from './panels/steps/StepsPanel';
import { LinksView } from './panels/links/LinksView';
import { StageMenu } from './panels/stageMenu/StageMenu';
import { ViewMenu } from './panels/viewMenu/ViewMenu';
import { TopBar } from './panels/topbar/TopBar';
import { Tray } from './panels/tray/Tray';
import { TreePanel } from './panels/tree/TreePanel';
import { Walk } from './panels/walk/Walk';
import { fetchAll, later } from './controls/later';
import { Region } from './controls/Region';
import { Splitter } from './controls/Splitter';
import { Sentence } from './sentence/Sentence';
import { StageView } from './stage/StageView';
import type { Stage } from './stage/stage';
import { settingsOf } from './state/settings';
import { set, useStore } from './state/store';

export function App() {
  const ready = useStore((s) => s.ready);
  const failed = useStore((s) => s.failed);
  const settings = settingsOf(useStore((s) => s.settings));
  const stage = useRef<Stage | null>(null);
  const [widths, setWidths] = useState<{ tree: number; panel: number } | null>(null);
  const life = useStore((s) => s.life);
  const { arrangement } = settings;
  const tree = widths?.tree ?? arrangement.treeWidth;
  const panel = widths?.panel ?? arrangement.panelWidth;
  const onStage = useCallback((s: Stage | null) => {
    stage.current = s;
    if (s) {
      s.rebuild();
    }
  }, []);
  const now = useCallback(() => stage.current, []);

  useEffect(() => listen(now), [now]);
  useEffect(() => {
    if (!ready) return;
    const soon = setTimeout(() => void fetchAll(), quiet);
    return () => clearTimeout(soon);
  }, [ready]);
  // Before any effect asks the page for its colours.
  useLayoutEffect(() => {
    document.documentElement.dataset['theme'] = settings.theme;
  }, [settings.theme]);

  useEffect(() => setWidths(null), [life]);

  if (failed) return <Message text={failed} />;
  if (!ready) return <Message text="Opening…" />;
  const keepWidths = (change: { tree: number; panel: number }) => {
    setWidths(null);
    arrange({ treeWidth: change.tree, panelWidth: change.panel });
  };
  const side = (what: 'tree' | 'panel', first: boolean): ReactNode => {
    const [width, from] = what === 'tree' ? [tree, 180] : [panel, 268];
    const shown = (
      <aside
        key={what}
        className={`apart min-h-0 shrink-0 bg-paper `}
        style={{ width }}
        aria-label={what === 'panel' ? 'Picked object' : undefined}
      >
        {what === 'tree' ? (
          <Region name="The tree" key={`The tree ${life}`}>
            <TreePanel stage={now} />
          </Region>
        ) : (
          <Region name="What is picked" key={`What is picked ${life}`}>
            <Chapters />
          </Region>
        )}
      </aside>
    );
    const line = (
      <Splitter
        key={`${what} line`}
        label={what === 'tree' ? 'Width of the tree' : 'Width of the panels'}
        value={width}
        from={from}
        to={420}
        side={first ? 1 : -1}
        change={(w) => setWidths({ tree, panel, [what]: w })}
        done={(w) => keepWidths({ tree, panel, [what]: w })}
      />
    );
    return arrangement[what] ? (first ? [shown, line] : [line, shown]) : null;
  };
  const [left, right] = arrangement.swapped ? (['panel', 'tree'] as const) : (['tree', 'panel'] as const);
  return (
    <div className="flex h-full flex-col">
      <Region name="The top bar" key={`The top bar ${life}`}>
        <TopBar />
      </Region>
      <main className="relative flex min-h-0 flex-1">
        {side(left, true)}
        <div key="stage" className="flex min-w-0 flex-1 flex-col">
          <div className="relative min-h-0 flex-1">
            <Region name="The stage">
              <StageView
                onStage={onStage}
                corner={(on, view) => <ViewMenu stage={on} view={view} />}
                menu={(on) => <StageMenu stage={on} />}
              />
            </Region>
            <Region name="The sentence" key={`The sentence ${life}`}>
              <Sentence />
              <Walk stage={now} />
            </Region>
            <Region name="What lies over the stage" key={`What lies over the stage ${life}`}>
              <LinksView />
              <Opened />
            </Region>
          </div>
          <Region name="The tray" key={`The tray ${life}`}>
            <Tray stage={now} />
          </Region>
        </div>
        {side(right, false)}
        <Region name="The list of steps" key={`The list of steps ${life}`}>
          <StepsPanel width={panel} />
        </Region>
      </main>
      <Region name="The search" key={`The search ${life}`}>
        <FindAnything stage={now} />
      </Region>
      <Region name="The run through the shots" key={`The run through the shots ${life}`}>
        <RunThrough />
      </Region>
      <div id="floating" role="region" aria-label="Menus" />
    </div>
  );
}

/** How long after opening everything else is fetched, in milliseconds. */
const quiet = 30_000;

// What lies over the stage now and then is fetched when it is first opened.
const closes = { leave: () => set({ open: null }) };
const Gallery = later(() => import('./panels/gallery/Gallery').then((m) => m.Gallery), closes);
const SettingsDialog = later(
  () => import('./panels/settingsDialog/SettingsDialog').then((m) => m.SettingsDialog),
  closes,
);
const PivotsCheck = later(() => import('./panels/pivots/PivotsCheck').then((m) => m.PivotsCheck), closes);
const SeenTable = later(() => import('./panels/seenTable/SeenTable').then((m) => m.SeenTable), closes);
const Compare = later(() => import('./panels/comparing/Compare').then((m) => m.Compare), closes);
const ContactSheet = later(() => import('./panels/sheet/ContactSheet').then((m) => m.ContactSheet), closes);
const ShotListTaken = later(() => import('./panels/shotList/ShotListTaken').then((m) => m.ShotListTaken), closes);
const StillMaker = later(() => import('./panels/stillMaker/StillMaker').then((m) => m.StillMaker), closes);
const StillShown = later(() => import('./panels/stillShown/StillShown').then((m) => m.StillShown), closes);
const SurroundingsPanel = later(
  () => import('./panels/surroundings/SurroundingsPanel').then((m) => m.SurroundingsPanel),
  closes,
);
const PictureIn = later(() => import('./panels/pictureIn/PictureIn').then((m) => m.PictureIn), {
  leave: () => set({ bringing: null }),
});

function Opened() {
  const open = useStore((s) => s.open);
  const bringing = useStore((s) => s.bringing !== null);
  return (
    <>
      {open === 'scenes' && <Gallery />}
      {open === 'settings' && <SettingsDialog />}
      {open === 'pivots' && <PivotsCheck />}
      {open === 'seen' && <SeenTable />}
      {open === 'compare' && <Compare />}
      {open === 'sheet' && <ContactSheet />}
      {open === 'shotList' && <ShotListTaken />}
      {open === 'stillMake' && <StillMaker />}
      {open === 'still' && <StillShown />}
      {open === 'surroundings' && <SurroundingsPanel />}
      {bringing && <PictureIn />}
    </>
  );
}

function Message({ text }: { text: string }) {
  return (
    <div className="grid h-full place-items-center text-ink-2" role="status">
      {text}
    </div>
  );
}
