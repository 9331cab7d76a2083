import { lazy, Suspense, useCallback, useEffect, useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import { arrange } from './commands/page';
import { listen } from './keys/keys';
import { Chapters } from './panels/chapters/Chapters';
import { FindAnything } from './panels/find/FindAnything';
import { PivotsCheck } from './panels/pivots/PivotsCheck';
import { SettingsDialog } from './panels/settingsDialog/SettingsDialog';
import { StepsPanel } from './panels/steps/StepsPanel';
import { RunThrough } from './panels/running/RunThrough';
import { Gallery } from './panels/gallery/Gallery';
import { LinksView } from './panels/links/LinksView';
import { StageMenu } from './panels/stageMenu/StageMenu';
import { ViewMenu } from './panels/viewMenu/ViewMenu';
import { TopBar } from './panels/topbar/TopBar';
import { Tray } from './panels/tray/Tray';
import { TreePanel } from './panels/tree/TreePanel';
import { Walk } from './panels/walk/Walk';
import { Splitter } from './controls/Splitter';
import { Sentence } from './sentence/Sentence';
import { StageView } from './stage/StageView';
import type { Stage } from './stage/stage';
import { settingsOf } from './state/settings';
import { useStore } from './state/store';

export function App() {
  const ready = useStore((s) => s.ready);
  const failed = useStore((s) => s.failed);
  const settings = settingsOf(useStore((s) => s.settings));
  const stage = useRef<Stage | null>(null);
  const [widths, setWidths] = useState<{ tree: number; panel: number } | null>(null);
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
  // Before any effect asks the page for its colours.
  useLayoutEffect(() => {
    document.documentElement.dataset['theme'] = settings.theme;
  }, [settings.theme]);

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
        {what === 'tree' ? <TreePanel stage={now} /> : <Chapters />}
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
      <TopBar />
      <main className="relative flex min-h-0 flex-1">
        {side(left, true)}
        <div key="stage" className="flex min-w-0 flex-1 flex-col">
          <div className="relative min-h-0 flex-1">
            <StageView
              onStage={onStage}
              corner={(on, view) => <ViewMenu stage={on} view={view} />}
              menu={(on) => <StageMenu stage={on} />}
            />
            <Sentence />
            <Walk stage={now} />
            <LinksView />
            <Gallery />
            <Opened />
          </div>
          <Tray stage={now} />
        </div>
        {side(right, false)}
        <StepsPanel width={panel} />
      </main>
      <FindAnything stage={now} />
      <SettingsDialog />
      <PivotsCheck />
      <RunThrough />
      <div id="floating" role="region" aria-label="Menus" />
    </div>
  );
}

// What lies over the stage now and then is fetched when it is first opened.
const SeenTable = lazy(() => import('./panels/seenTable/SeenTable').then((m) => ({ default: m.SeenTable })));
const Compare = lazy(() => import('./panels/comparing/Compare').then((m) => ({ default: m.Compare })));
const ContactSheet = lazy(() => import('./panels/sheet/ContactSheet').then((m) => ({ default: m.ContactSheet })));
const ShotListTaken = lazy(() => import('./panels/shotList/ShotListTaken').then((m) => ({ default: m.ShotListTaken })));
const StillMaker = lazy(() => import('./panels/stillMaker/StillMaker').then((m) => ({ default: m.StillMaker })));
const StillShown = lazy(() => import('./panels/stillShown/StillShown').then((m) => ({ default: m.StillShown })));
const SurroundingsPanel = lazy(() =>
  import('./panels/surroundings/SurroundingsPanel').then((m) => ({ default: m.SurroundingsPanel })),
);
const PictureIn = lazy(() => import('./panels/pictureIn/PictureIn').then((m) => ({ default: m.PictureIn })));

function Opened() {
  const open = useStore((s) => s.open);
  const bringing = useStore((s) => s.bringing !== null);
  return (
    <Suspense fallback={null}>
      {open === 'seen' && <SeenTable />}
      {open === 'compare' && <Compare />}
      {open === 'sheet' && <ContactSheet />}
      {open === 'shotList' && <ShotListTaken />}
      {open === 'stillMake' && <StillMaker />}
      {open === 'still' && <StillShown />}
      {open === 'surroundings' && <SurroundingsPanel />}
      {bringing && <PictureIn />}
    </Suspense>
  );
}

function Message({ text }: { text: string }) {
  return (
    <div className="grid h-full place-items-center text-ink-2" role="status">
      {text}
    </div>
  );
}
