import { Pause, Play, Repeat, SkipBack, SkipForward, X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { changeRun, endRun, frameAt, stepRun, togglePlaying } from '../../acts/playing';
import { session } from '../../acts/session';
import { wantPicture } from '../../acts/shotPictures';
import { enterShot } from '../../acts/shots';
import { firstOf, framesOf, shotAt } from '../../state/sequence';
import { get, useStore } from '../../state/store';

/** A change of shot that keeps the page longer than this, twice in a row, is too slow to be drawn while it runs. */
const slowest = 120;

/** All shots one after the other for their lengths, over the whole window. */
export function RunThrough() {
  return useStore((s) => s.running !== null) ? <Running /> : null;
}

function Running() {
  const running = useStore((s) => s.running)!;
  const { playing, loop, cards, frame } = running;
  const shots = useStore((s) => s.shots);
  const fps = useStore((s) => s.timing.fps);
  const box = useRef<HTMLDivElement>(null);
  const total = framesOf(shots);
  const { index, within } = shotAt(shots, frame);
  const shot = shots[index];
  useEffect(() => {
    const before = document.activeElement as HTMLElement | null;
    box.current?.focus();
    return () => before?.focus();
  }, []);
  // Wherever the focus is: a menu that it was begun from takes it back.
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const onButton = (e.target as HTMLElement).closest('[data-running] button') !== null;
      const act = onButton && (e.key === ' ' || e.key === 'Enter') ? undefined : keys[e.key];
      e.stopPropagation();
      if (!act || e.ctrlKey || e.metaKey || e.altKey) return;
      e.preventDefault();
      act();
    };
    window.addEventListener('keydown', press, true);
    return () => window.removeEventListener('keydown', press, true);
  }, []);
  useClock(playing, fps, total, loop);
  useEffect(() => {
    if (shots.length === 0) endRun();
  }, [shots.length]);
  if (!shot) return null;
  return (
    <div
      ref={box}
      role="dialog"
      aria-modal
      aria-label="Run through"
      tabIndex={-1}
      className="fixed inset-0 z-50 flex flex-col bg-[#15120f] text-[#f1ece3] outline-none"
      data-running={shot.id}
      data-frame={frame}
    >
      <div className="relative min-h-0 flex-1">
        {shot.cameraNote !== null ? (
          <p className="m-0 grid h-full place-items-center text-[15px]">{shot.cameraNote}</p>
        ) : cards ? (
          <Card shot={shot.id} />
        ) : (
          <Drawn shot={shot.id} aspect={shot.aspect} next={shots[index + 1]?.id} />
        )}
      </div>
      <div className="flex shrink-0 items-baseline gap-4 px-5 pt-2">
        <b className="text-[16px] font-semibold">{shot.title}</b>
        <span className="font-mono" data-code>
          {session.core.timeCode(frame)}
        </span>
        <span className="font-mono text-[#b9b2a6]">
          {within + 1} of {shot.frames}
        </span>
        <span className="min-w-0 flex-1 truncate text-[#b9b2a6]">{shot.note}</span>
        <span className="text-[#b9b2a6]">
          {index + 1} of {shots.length} shots
        </span>
      </div>
      <div className="flex h-5 shrink-0 gap-[2px] px-5 pt-2" aria-hidden>
        {shots.length <= 300 &&
          shots.map((s, i) => (
            <div key={s.id} className="h-1.5 overflow-hidden rounded-sm bg-[#47423c]" style={{ flexGrow: s.frames }}>
              <div
                className="h-full bg-[#b78bdb]"
                style={{ width: `${i < index ? 100 : i > index ? 0 : ((within + 1) / s.frames) * 100}%` }}
              />
            </div>
          ))}
      </div>
      <div className="flex shrink-0 items-center gap-1.5 px-4 pt-1 pb-3" role="toolbar" aria-label="Run through">
        <Press word="Previous shot (←)" act={() => stepRun(-1)}>
          <SkipBack size={16} aria-hidden />
        </Press>
        <Press word={playing ? 'Rest (Space)' : 'Play (Space)'} act={togglePlaying}>
          {playing ? <Pause size={16} aria-hidden /> : <Play size={16} aria-hidden />}
        </Press>
        <Press word="Next shot (→)" act={() => stepRun(1)}>
          <SkipForward size={16} aria-hidden />
        </Press>
        <Press word="Begin again at the end (L)" on={loop} act={() => changeRun({ loop: !loop })}>
          <Repeat size={16} aria-hidden />
        </Press>
        <Press
          word="The pictures of the cards, where drawing is too slow"
          on={cards}
          act={() => changeRun({ cards: !cards })}
        >
          {cards ? 'Cards' : 'Drawn live'}
        </Press>
        <span className="flex-1" />
        <Press word="Arrange in this shot (Enter)" act={() => arrangeHere(shot.id)}>
          Arrange here
        </Press>
        <Press word="Leave (Esc)" act={endRun}>
          <X size={16} aria-hidden />
        </Press>
      </div>
    </div>
  );
}

const keys: Record<string, () => void> = {
  ' ': togglePlaying,
  ArrowRight: () => stepRun(1),
  ArrowLeft: () => stepRun(-1),
  Home: () => changeRun({ frame: 0 }),
  End: () => changeRun({ frame: firstOf(get().shots, get().shots.length - 1) }),
  l: () => changeRun({ loop: !get().running?.loop }),
  Enter: () => {
    const { shots, running } = get();
    const shot = shots[shotAt(shots, running?.frame ?? 0).index];
    if (shot) arrangeHere(shot.id);
  },
  Escape: endRun,
};

function arrangeHere(shot: string): void {
  endRun();
  enterShot(shot);
}

/** Moves the frame on while it plays: counted from when it began, so that nothing adds up. */
function useClock(playing: boolean, fps: number, total: number, loop: boolean): void {
  useEffect(() => {
    if (!playing || total === 0) return;
    let [start, from] = [performance.now(), get().running?.frame ?? 0];
    let shown = from;
    let asked = requestAnimationFrame(function tick(now) {
      const present = get().running?.frame;
      if (present === undefined) return;
      // A step was made by hand.
      if (present !== shown) [start, from] = [now, present];
      const { frame, ended } = frameAt(from, Math.max(0, now - start), fps, total, loop);
      shown = frame;
      if (frame !== present || ended) changeRun({ frame, ...(ended ? { playing: false } : {}) });
      if (!ended) asked = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(asked);
  }, [playing, fps, total, loop]);
}

/** The shot drawn live, as large as it fits. */
function Drawn({ shot, aspect, next }: { shot: string; aspect: number; next: string | undefined }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [room, setRoom] = useState({ width: 0, height: 0 });
  const slow = useRef(0);
  useEffect(() => {
    const box = canvas.current!.parentElement!;
    const sizes = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      setRoom({ width, height });
    });
    sizes.observe(box);
    return () => sizes.disconnect();
  }, []);
  // Drawn again when the scene changes meanwhile.
  const version = useStore((s) => s.shotVersions.get(shot));
  const height = Math.floor(Math.min(room.height, room.width / aspect));
  const width = Math.floor(height * aspect);
  useEffect(() => {
    if (height < 1 || width < 1) return;
    const ratio = Math.min(2, window.devicePixelRatio || 1);
    const [w, h] = [Math.round(width * ratio), Math.round(height * ratio)];
    const on = canvas.current!;
    if (on.width !== w || on.height !== h) [on.width, on.height] = [w, h];
    const started = performance.now();
    session.picture?.drawOnto(shot, on);
    slow.current = performance.now() - started > slowest ? slow.current + 1 : 0;
    if (slow.current >= 2 && get().running?.playing) changeRun({ cards: true });
  }, [shot, width, height, version, next]);
  return (
    <div className="absolute inset-3 grid place-items-center overflow-hidden">
      <canvas ref={canvas} style={{ width, height }} data-drawn={shot} />
    </div>
  );
}

/** The picture of the card. */
function Card({ shot }: { shot: string }) {
  const picture = useStore((s) => s.shotPictures.get(shot));
  useEffect(() => wantPicture(shot), [shot]);
  return (
    <div className="absolute inset-3 grid place-items-center">
      {picture?.url ? <img src={picture.url} alt="" className="h-full w-full object-contain" /> : <span>…</span>}
    </div>
  );
}

function Press(props: { word: string; act: () => void; on?: boolean; children: React.ReactNode }) {
  return (
    <button
      type="button"
      className={`flex h-8 min-w-8 items-center justify-center rounded-lg px-2 hover:bg-[#3b2f45] ${props.on ? 'bg-[#3b2f45] text-[#d9bff0]' : ''}`}
      aria-label={props.word}
      title={props.word}
      {...(props.on === undefined ? {} : { 'aria-pressed': props.on })}
      onClick={props.act}
    >
      {props.children}
    </button>
  );
}
