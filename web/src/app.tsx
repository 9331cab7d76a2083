import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { listen } from './keys/keys';
import { PlacementPanel } from './panels/placement/PlacementPanel';
import { PivotPanel } from './panels/pivot/PivotPanel';
import { ShapePanel } from './panels/shape/ShapePanel';
import { WhyPanel } from './panels/why/WhyPanel';
import { TopBar } from './panels/topbar/TopBar';
import { TreePanel } from './panels/tree/TreePanel';
import { Splitter } from './panels/Splitter';
import { Sentence } from './sentence/Sentence';
import { StageView } from './stage/StageView';
import type { Stage } from './stage/stage';
import { session } from './state/session';
import { useStore } from './state/store';

export function App() {
  const ready = useStore((s) => s.ready);
  const failed = useStore((s) => s.failed);
  const settings = useStore((s) => s.settings);
  const stage = useRef<Stage | null>(null);
  const [widths, setWidths] = useState<{ tree: number; panel: number } | null>(null);
  const tree = widths?.tree ?? settings.treeWidth ?? 244;
  const panel = widths?.panel ?? settings.panelWidth ?? 292;
  const onStage = useCallback((s: Stage | null) => {
    stage.current = s;
    if (s) {
      s.rebuild();
      s.startView();
    }
  }, []);

  useEffect(() => listen(() => stage.current), []);
  // Before any effect asks the page for its colours.
  useLayoutEffect(() => {
    document.documentElement.dataset['theme'] = settings.theme ?? 'day';
  }, [settings.theme]);

  if (failed) return <Message text={failed} />;
  if (!ready) return <Message text="Opening…" />;
  const keepWidths = () => session.saveSettings({ treeWidth: tree, panelWidth: panel });
  return (
    <div className="flex h-full flex-col">
      <TopBar />
      <main className="flex min-h-0 flex-1">
        <aside className="min-h-0 shrink-0 bg-paper" style={{ width: tree }}>
          <TreePanel />
        </aside>
        <Splitter
          label="Width of the tree"
          value={tree}
          from={180}
          to={420}
          side={1}
          change={(w) => setWidths({ tree: w, panel })}
          done={keepWidths}
        />
        <div className="relative min-w-0 flex-1">
          <StageView onStage={onStage} />
          <Sentence />
        </div>
        <Splitter
          label="Width of the panels"
          value={panel}
          from={268}
          to={420}
          side={-1}
          change={(w) => setWidths({ tree, panel: w })}
          done={keepWidths}
        />
        <aside className="min-h-0 shrink-0 overflow-auto bg-paper" style={{ width: panel }} aria-label="Picked object">
          <Panels />
        </aside>
      </main>
    </div>
  );
}

function Panels() {
  const lead = useStore((s) => s.lead);
  const many = useStore((s) => s.selection.length);
  if (!lead) {
    return (
      <p className="m-0 p-4 text-ink-2">
        Nothing is picked. What you pick shows its numbers, its pivot and its shape here.
      </p>
    );
  }
  return (
    <>
      {many > 1 && (
        <p className="m-0 border-b border-line px-3.5 py-2 text-ink-2">{many} picked; these are the lead’s numbers.</p>
      )}
      <PlacementPanel lead={lead} />
      <PivotPanel lead={lead} />
      <ShapePanel lead={lead} />
      <WhyPanel lead={lead} />
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
