import { useVirtualizer } from '@tanstack/react-virtual';
import { Plus, Trash2, Upload, X } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { rememberFocus, returnFocus } from '../../acts/focus';
import { askForFile, importFile } from '../../acts/importing';
import { session } from '../../acts/session';
import { copyScene, newScene, removeScene, renameScene } from '../../acts/wholeScenes';
import { useStore } from '../../state/store';
import type { SceneSummary } from '../../wire/apiTypes';
import { Bin } from './Bin';
import { SceneCard, type Asked } from './SceneCard';

/** A card with what is between it and the next, in pixels. */
const card = { width: 232, height: 212 };

/** All scenes over the stage: picture, name, objects, when and by whom they were changed; newest first. */
export function Gallery() {
  const open = useStore((s) => s.open === 'scenes');
  return open ? <Cards /> : null;
}

const leave = () => {
  useStore.setState({ open: null });
  returnFocus();
};

function Cards() {
  const scenes = useStore((s) => s.scenes);
  const here = useStore((s) => s.scene?.id);
  // What the sentence would say lies below the gallery.
  const notice = useStore((s) => s.notice);
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const [asked, setAsked] = useState<Asked | null>(null);
  const [wide, setWide] = useState(700);
  const [over, setOver] = useState(false);
  const [bin, setBin] = useState(false);
  const [removed, setRemoved] = useState<number | null>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const search = useRef<HTMLInputElement>(null);
  const found = useMemo(() => fitting(scenes, text), [scenes, text]);
  const columns = Math.max(1, Math.floor(wide / card.width));
  const rows = useVirtualizer({
    count: Math.ceil(found.length / columns),
    getScrollElement: () => scroller.current,
    estimateSize: () => card.height,
    overscan: 2,
  });

  useEffect(() => {
    rememberFocus();
    search.current?.focus();
    const sizes = new ResizeObserver(([entry]) => setWide(entry!.contentRect.width));
    sizes.observe(scroller.current!);
    return () => sizes.disconnect();
  }, []);
  const chosen = Math.min(at, found.length - 1);
  useEffect(() => {
    if (chosen >= 0) rows.scrollToIndex(Math.floor(chosen / columns), { align: 'auto' });
  }, [chosen, columns, rows]);

  const enter = (id: string) => {
    leave();
    if (id !== here) void session.guarded(() => session.open(id));
  };
  const done = () => {
    setAsked(null);
    search.current?.focus();
  };
  const acts = {
    open: enter,
    ask: setAsked,
    rename: (id: string, name: string) => {
      done();
      if (name.trim() !== '') void session.guarded(() => renameScene(id, name.trim()));
    },
    copy: (scene: SceneSummary) =>
      void session.guarded(async () => {
        const made = await copyScene(scene.id, `${scene.name} copy`);
        setAsked({ id: made, what: 'rename' });
        setText('');
        setAt(0);
      }),
    remove: (id: string) => {
      done();
      void session.guarded(() => removeScene(id));
    },
    leave: done,
  };
  const keyed = (e: KeyboardEvent) => {
    if ((e.target as HTMLElement).closest('[role="menu"], [data-asked]')) return;
    if (bin) {
      if (e.key !== 'Escape') return;
      setBin(false);
      e.preventDefault();
      e.stopPropagation();
      return;
    }
    const step = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: columns, ArrowUp: -columns }[e.key];
    const scene = found[chosen];
    const typing = (e.key === 'ArrowLeft' || e.key === 'ArrowRight' || e.key === 'Delete') && text !== '';
    if (step !== undefined && !typing) setAt(Math.max(0, Math.min(found.length - 1, chosen + step)));
    else if (e.key === 'Enter' && scene && e.target === search.current) enter(scene.id);
    else if (e.key === 'F2' && scene) setAsked({ id: scene.id, what: 'rename' });
    else if (e.key === 'Delete' && scene && !typing) setAsked({ id: scene.id, what: 'remove' });
    else if (e.key === 'Escape') {
      if (text === '') leave();
      else setText('');
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };

  return (
    <section
      aria-label="All scenes"
      className="absolute inset-0 z-30 flex flex-col bg-stage"
      data-catches-keys
      data-gallery
      onKeyDown={keyed}
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes('Files')) return;
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        setOver(false);
        const file = e.dataTransfer.files[0];
        if (!file) return;
        e.preventDefault();
        leave();
        void importFile(file, { to: 'new' });
      }}
    >
      <header className="flex flex-wrap items-center gap-2 px-4 pt-3 pb-2">
        <h2 className="m-0 mr-1 text-[15px] font-semibold text-ink-1">{bin ? 'Bin' : 'Scenes'}</h2>
        <input
          ref={search}
          role="combobox"
          aria-expanded="true"
          aria-haspopup="grid"
          aria-controls="scenes"
          aria-label="Find a scene"
          aria-activedescendant={found[chosen] ? `scene-${found[chosen].id}` : undefined}
          className="field min-w-28 flex-1 text-left font-sans"
          placeholder="A part of its name"
          value={text}
          onChange={(e) => {
            setBin(false);
            setText(e.target.value);
            setAt(0);
          }}
        />
        <span className="text-ink-2" role="status">
          {bin ? (removed ?? '') : text === '' ? `${scenes.length}` : `${found.length} of ${scenes.length}`}
        </span>
        <button
          type="button"
          className="btn"
          onClick={() => {
            leave();
            void session.guarded(() => newScene('New scene'));
          }}
        >
          <Plus size={14} aria-hidden /> New
        </button>
        <button
          type="button"
          className="btn"
          title="Choose a file, or drop one here"
          onClick={() => {
            leave();
            askForFile({ to: 'new' });
          }}
        >
          <Upload size={14} aria-hidden /> Import
        </button>
        <button
          type="button"
          className={`btn ${bin ? 'border-plum bg-wash text-plum' : ''}`}
          aria-pressed={bin}
          title={bin ? 'Back to the scenes (Esc)' : 'Scenes that were removed'}
          onClick={() => setBin(!bin)}
        >
          <Trash2 size={14} aria-hidden /> Bin
        </button>
        <button
          type="button"
          className="btn-quiet"
          aria-label="Back to the stage"
          title="Back to the stage (Esc)"
          onClick={leave}
        >
          <X size={15} aria-hidden />
        </button>
      </header>
      {bin && <Bin counted={setRemoved} />}
      <div
        ref={scroller}
        id="scenes"
        role="grid"
        aria-label="Scenes"
        className={bin ? 'hidden' : 'min-h-0 flex-1 overflow-auto px-3 pb-3'}
      >
        {found.length === 0 && (
          <p className="m-2 text-ink-2">
            {scenes.length === 0
              ? 'There is no scene yet: make one, or drop a file here.'
              : `No scene is called “${text}”.`}
          </p>
        )}
        <div role="presentation" className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((row) => (
            <div key={row.key} role="row" className="absolute flex" style={{ top: row.start, left: 0 }}>
              {found.slice(row.index * columns, (row.index + 1) * columns).map((scene, i) => (
                <SceneCard
                  key={scene.id}
                  scene={scene}
                  isOpen={scene.id === here}
                  isChosen={row.index * columns + i === chosen}
                  asked={asked?.id === scene.id ? asked.what : null}
                  choose={() => setAt(row.index * columns + i)}
                  acts={acts}
                />
              ))}
            </div>
          ))}
        </div>
      </div>
      <div
        className={`flex items-center gap-2 border-t border-line px-4 py-1.5 ${notice?.kind === 'refusal' ? 'text-refusal' : notice ? 'text-ink-1' : 'text-ink-2'}`}
        role={notice ? 'alert' : undefined}
      >
        {notice?.text ??
          (bin
            ? 'What is brought back is as it was, with its steps. Esc goes back to the scenes.'
            : 'Arrows choose, Enter opens, F2 renames, Delete removes, Esc goes back. A file that is dropped here becomes a scene.')}
        {notice?.act && (
          <button type="button" className="btn h-6" onClick={notice.act.do}>
            {notice.act.word}
          </button>
        )}
      </div>
      {over && (
        <div className="pointer-events-none absolute inset-2 rounded-xl border-2 border-dashed border-plum bg-plum/10" />
      )}
    </section>
  );
}

/** Those whose names hold every word that was typed. */
function fitting(scenes: SceneSummary[], text: string): SceneSummary[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return words.length === 0 ? scenes : scenes.filter((s) => words.every((w) => s.name.toLowerCase().includes(w)));
}
