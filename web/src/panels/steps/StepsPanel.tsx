import { when } from '../../controls/when';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Bookmark, X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { api, type StepEntry } from '../../api/client';
import { session } from '../../acts/session';
import { get, set, useStore } from '../../state/store';
import { keepSteps } from '../../acts/wholeScenes';
import { listOlderSteps, listSteps, showStep } from '../../acts/history';

/**
 * The history as sentences, newest first, with their time. Pointing at one shows on the stage what it moved and from where;
 * a press goes back or forward to it. Checkpoints can be given names. It lies over the panels: the stage stays in sight.
 */
export function StepsPanel({ width }: { width: number }) {
  const open = useStore((s) => s.open === 'steps');
  const steps = useStore((s) => s.steps);
  const number = useStore((s) => s.stepNumber);
  const rows = useStore((s) => s.rows);
  const scroller = useRef<HTMLDivElement>(null);
  const shown = steps.toReversed();
  const list = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 46,
    overscan: 8,
  });
  // The list follows every step that anybody makes.
  useEffect(() => {
    if (open) void listSteps();
  }, [open, number, rows]);
  const last = list.getVirtualItems().at(-1)?.index ?? 0;
  useEffect(() => {
    if (open && last >= steps.length - 30) void listOlderSteps();
  }, [open, last, steps.length]);
  if (!open) return null;
  const leave = () => {
    void showStep(null);
    set({ open: null });
  };
  return (
    <aside
      className="absolute inset-y-0 right-0 z-30 flex flex-col border-l border-line bg-paper"
      style={{ width }}
      aria-label="Steps"
      data-over-stage
      onKeyDown={(e) => {
        if (e.key !== 'Escape') return;
        e.stopPropagation();
        leave();
      }}
    >
      <div className="flex items-center justify-between border-b border-line py-1.5 pr-1.5 pl-3.5">
        <h2 className="panel-title">Steps</h2>
        <button type="button" className="btn-quiet" aria-label="Close the steps" title="Close (Esc)" onClick={leave}>
          <X size={15} aria-hidden />
        </button>
      </div>
      {steps.length === 0 && <p className="m-3.5 text-ink-2">Nothing has been done in this scene yet.</p>}
      <div
        ref={scroller}
        className="min-h-0 flex-1 overflow-auto p-1.5"
        onPointerLeave={() => void showStep(null)}
        tabIndex={-1}
      >
        <ol className="relative m-0 list-none p-0" style={{ height: list.getTotalSize() }}>
          {list.getVirtualItems().map((item) => (
            <StepRow key={shown[item.index]!.number} step={shown[item.index]!} top={item.start} />
          ))}
        </ol>
      </div>
      <div className="border-t border-line px-3.5 py-1.5 text-ink-2">
        <p className="m-0">
          Point at a step to see what it moved; press it to go there. Only your own steps can be taken back.
        </p>
        <Kept />
      </div>
    </aside>
  );
}

const keeping = [
  { days: 0, word: 'for good' },
  { days: 365, word: 'for a year' },
  { days: 90, word: 'for 90 days' },
  { days: 30, word: 'for 30 days' },
];

/** For how long the scene keeps its steps. */
function Kept() {
  const days = useStore((s) => s.scenes.find((one) => one.id === s.scene?.id)?.keepSteps ?? 0);
  return (
    <label className="mt-1 flex items-center gap-1.5">
      Steps of this scene are kept
      <select
        className="field w-auto font-sans"
        value={days}
        title="Older steps can then no longer be taken back; the scene stays as it is"
        onChange={(e) => void session.guarded(() => keepSteps(Number(e.target.value)))}
      >
        {keeping.some((k) => k.days === days) ? null : <option value={days}>for {days} days</option>}
        {keeping.map((k) => (
          <option key={k.days} value={k.days}>
            {k.word}
          </option>
        ))}
      </select>
    </label>
  );
}

function StepRow({ step, top }: { step: StepEntry; top: number }) {
  const [naming, setNaming] = useState(false);
  const go = () => {
    // A standing step: everything of mine after it is taken back. An undone one: everything up to it is done again.
    void session.restore(step.undone ? 'redo' : 'undo', step.number);
  };
  const keep = (name: string) => {
    setNaming(false);
    const id = get().scene?.id;
    if (!id || name.trim() === (step.name ?? '')) return;
    void session.guarded(async () => {
      await api.nameStep(id, step.number, name.trim() || null);
      await listSteps();
    });
  };
  return (
    <li
      className={`group absolute right-0 left-0 flex h-[46px] items-center gap-2 rounded-lg px-2 hover:bg-wash ${step.undone ? 'text-ink-3' : ''}`}
      style={{ top }}
      onPointerEnter={() => void showStep(step)}
    >
      <span className="w-7 shrink-0 text-right font-mono text-[11px] text-ink-2">{step.number}</span>
      {naming ? (
        <input
          autoFocus
          className="field flex-1 text-left font-sans"
          aria-label="Name of this checkpoint"
          defaultValue={step.name ?? ''}
          placeholder="Name this checkpoint"
          maxLength={200}
          onBlur={(e) => keep(e.target.value)}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === 'Enter') keep(e.currentTarget.value);
            else if (e.key === 'Escape') setNaming(false);
          }}
        />
      ) : (
        <button
          type="button"
          className="min-w-0 flex-1 text-left"
          disabled={step.dropped}
          title={
            step.dropped
              ? 'This step was replaced by others'
              : step.undone
                ? 'Do everything again up to here'
                : 'Go back to here'
          }
          onFocus={() => void showStep(step)}
          onClick={go}
        >
          {step.name && <b className="block truncate font-semibold text-plum">{step.name}</b>}
          <span className={`truncate ${step.name ? 'block' : 'line-clamp-2 whitespace-normal'}`} dir="auto">
            {step.sentence}
            {step.undone && ' (undone)'}
          </span>
        </button>
      )}
      <time className="shrink-0 font-mono text-[11px] text-ink-2" dateTime={step.at}>
        {when(step.at)}
      </time>
      <button
        type="button"
        className={`btn-quiet px-1 ${step.name ? 'text-plum' : 'opacity-0 group-hover:opacity-100 focus:opacity-100'}`}
        aria-label={`Name step ${step.number}`}
        title="Name this checkpoint"
        onClick={() => setNaming(true)}
      >
        <Bookmark size={13} aria-hidden />
      </button>
    </li>
  );
}
