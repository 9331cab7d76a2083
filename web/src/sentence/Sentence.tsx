import { Toolbar } from 'radix-ui';
import { useEffect, useRef } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { hint as keyHint } from '../commands';
import { additions } from '../commands/additions';
import { whileDragged } from '../acts/dragging';
import { add } from '../acts/planning';
import { standsAlone, type Plan } from '../state/plan';
import { askForFile } from '../acts/importing';
import { chooseAbout, chooseVerb, flipChildren, toggleAllHandles, toggleAxis } from '../commands/wording';
import { keepPointAsPivot } from '../acts/pickedPoint';
import { isLocked, set, useStore, type AboutKind, type PageState, type Verb } from '../state/store';
import { middleCut } from '../controls/middleCut';
import { navigationWords } from '../stage/navigation';
import { ownSettings } from '../state/ownSettings';
import { Amount } from './Amount';
import { VerbIcon } from '../controls/VerbIcon';
import { lacks, PlanWords } from './prepared/PlanWords';
import { CheatWays } from './CheatWays';
import { ScopeWord } from './ScopeWord';
import { Word } from './Word';
import { AxesWord } from './AxesWord';
import { AxisNeedle } from './AxisNeedle';
import { SnapWord } from './SnapWord';
import { StepWord } from './StepWord';
import { WaysOut } from './WaysOut';
import { aboutsFor, pickingWords, verbs } from '../acts/words';

const letters = ['X', 'Y', 'Z'] as const;
const axisColors = ['text-x', 'text-y', 'text-z'];

/** What of the page's state the sentence says. */
type Said = Pick<
  PageState,
  | 'verb'
  | 'handlesOn'
  | 'selection'
  | 'byId'
  | 'spaces'
  | 'abouts'
  | 'axes'
  | 'stepSizes'
  | 'childrenStay'
  | 'keepVolume'
  | 'placesOnly'
  | 'pivotNumbers'
  | 'typeTo'
  | 'rehearse'
  | 'marks'
  | 'picked'
>;

/** The sentence: states the edit that the next drag or typed number will make, and doubles as its controls. */
export function Sentence() {
  const state = useStore(
    useShallow((s) => ({
      verb: s.verb,
      handlesOn: s.handlesOn,
      selection: s.selection,
      byId: s.byId,
      spaces: s.spaces,
      abouts: s.abouts,
      axes: s.axes,
      stepSizes: s.stepSizes,
      childrenStay: s.childrenStay,
      keepVolume: s.keepVolume,
      placesOnly: s.placesOnly,
      pivotNumbers: s.pivotNumbers,
      typeTo: s.typeTo,
      rehearse: s.rehearse,
      marks: s.marks,
      picked: s.picked,
    })),
  );
  const picked = state.selection.length > 0;
  const plan = useStore((s) => s.plan);
  const bar = useRef<HTMLElement>(null);
  useEffect(() => {
    // The stage knows how much of it lies below the sentence, with the bar's distance to the edge.
    const sizes = new ResizeObserver(() => set({ foot: (bar.current?.offsetHeight ?? 76) + 16 }));
    sizes.observe(bar.current!);
    return () => sizes.disconnect();
  }, []);
  return (
    <section
      ref={bar}
      className="apart absolute right-4 bottom-4 left-4 mx-auto max-w-[900px] rounded-xl border border-line bg-paper shadow-float"
      aria-label="Sentence"
    >
      <div className="flex min-h-12 flex-wrap items-center gap-x-2 gap-y-1 px-3 py-1.5 text-[14px]">
        {!plan && <Verbs verb={state.verb} on={state.handlesOn} />}
        <ScopeWord first />
        {plan && (picked || standsAlone(plan)) ? (
          <PlanWords plan={plan} />
        ) : picked ? (
          <Words state={state} />
        ) : (
          <Beginning />
        )}
        {picked && <ScopeWord first={false} />}
      </div>
      <SecondLine />
    </section>
  );
}

/** Nothing is picked: where to begin. */
function Beginning() {
  const empty = useStore((s) => s.rows.length === 0);
  if (!empty) return <span className="pl-2 text-ink-2">Pick an object, on the stage or in the tree.</span>;
  return (
    <span className="flex flex-wrap items-center gap-x-2 pl-2">
      <span className="text-ink-2">This scene is empty. Begin with</span>
      <Word
        label="Add an object"
        chosen=""
        choices={() => additions.map(({ id, says }) => ({ value: id, word: says }))}
        choose={(id) => add(additions.find((a) => a.id === id)!.node)}
      >
        an object
      </Word>
      <span className="text-ink-2">, by</span>
      <button type="button" className="word" onClick={() => set({ drawing: 'box' })}>
        drawing a box
      </button>
      <span className="text-ink-2">, or</span>
      <button type="button" className="word" onClick={() => askForFile({ to: 'here' })}>
        import a file
      </button>
    </span>
  );
}

function Verbs({ verb, on }: { verb: Verb; on: boolean }) {
  const all = useStore((s) => s.allHandles);
  return (
    <Toolbar.Root aria-label="Verbs" className="mr-1 flex gap-0.5">
      <Toolbar.ToggleGroup type="single" value={on ? verb : ''} className="flex gap-0.5" aria-label="Verb">
        {verbs.map(({ verb: v, word }) => (
          <Toolbar.ToggleItem
            key={v}
            value={v}
            title={`${word}${keyHint(`verb.${v}`)}`}
            aria-label={word}
            onClick={() => chooseVerb(v)}
            className="grid h-8 w-8 place-items-center rounded-lg text-ink-1 hover:bg-wash data-[state=on]:bg-plum data-[state=on]:text-on-plum"
          >
            <VerbIcon verb={v} />
          </Toolbar.ToggleItem>
        ))}
      </Toolbar.ToggleGroup>
      <Toolbar.Button
        title={`Needles, arcs and pads at once${keyHint('allHandles')}`}
        aria-label="All handles at once"
        aria-pressed={all}
        onClick={() => toggleAllHandles()}
        className={`grid h-8 w-8 place-items-center rounded-lg hover:bg-wash ${all ? 'bg-wash text-plum' : 'text-ink-1'}`}
      >
        <VerbIcon verb="all" />
      </Toolbar.Button>
    </Toolbar.Root>
  );
}

function Words({ state }: { state: Said }) {
  const { verb, selection, byId } = state;
  const many = selection.length > 1;
  const name = many ? `${selection.length} objects` : middleCut(byId.get(selection[0]!)?.name ?? '', 40);
  const plain = verbs.find((v) => v.verb === verb)!.word;
  const verbWord = state.rehearse ? `Would ${plain.toLowerCase()}` : plain;
  return (
    <>
      <span>{verb === 'pivot' ? (state.rehearse ? 'Would move the pivot of' : 'Move the pivot of') : verbWord}</span>
      <b className="font-semibold" title={many ? `The lead is ${byId.get(selection.at(-1)!)?.name}` : undefined}>
        {name}
      </b>
      {(verb === 'scale' || (verb === 'rotate' && state.spaces.rotate !== 'channels')) && (
        <AboutWord state={state} verb={verb} many={many} />
      )}
      <AxesWord many={many} />
      <AxisWords state={state} />
      <span className="flex items-center gap-2 whitespace-nowrap">
        <button
          type="button"
          className="word"
          aria-label={`Type by or to: ${state.typeTo ? 'to' : 'by'}`}
          title="A typed number is the amount by which it changes, or the value that it is to have"
          onClick={() => set({ typeTo: !state.typeTo })}
        >
          {state.typeTo ? 'to' : 'by'}
        </button>
        <Amount />
      </span>
      <StepWord />
      {verb === 'scale' && state.axes.scale.some((a) => !a) && (
        <Toggle
          on={state.keepVolume}
          flip={() => set({ keepVolume: !state.keepVolume })}
          word={state.keepVolume ? 'volume kept' : 'volume free'}
          label="Keep the volume"
        />
      )}
      {many && (verb === 'rotate' || verb === 'scale') && (
        <Toggle
          on={state.placesOnly}
          flip={() => set({ placesOnly: !state.placesOnly })}
          word={state.placesOnly ? 'only their places' : 'whole objects'}
          label="Only their places"
        />
      )}
      {verb === 'pivot' && (
        <Toggle
          on={state.pivotNumbers}
          flip={() => set({ pivotNumbers: !state.pivotNumbers })}
          word={state.pivotNumbers ? 'numbers kept' : 'place kept'}
          label="Keep the numbers"
        />
      )}
      {(verb === 'move' || verb === 'pivot') && <SnapWord />}
      {state.rehearse && (
        <Toggle on flip={() => set({ rehearse: false })} word="rehearsing" label="Rehearsing: edits are put back" />
      )}
      {verb !== 'pivot' && (
        <Toggle
          on={state.childrenStay}
          flip={flipChildren}
          word={state.childrenStay ? 'children stay' : 'children ride along'}
          label="Children stay"
        />
      )}
    </>
  );
}

function Toggle({ on, flip, word, label }: { on: boolean; flip: () => void; word: string; label: string }) {
  return (
    <span className="flex items-center gap-1.5">
      <span aria-hidden>·</span>
      <button type="button" className="word" aria-pressed={on} aria-label={`${label}: ${word}`} onClick={flip}>
        {word}
      </button>
    </span>
  );
}

function AboutWord({ state, verb, many }: { state: Said; verb: 'rotate' | 'scale'; many: boolean }) {
  const chosen = state.abouts[verb];
  const words = aboutsFor(state);
  const word = words.find((w) => w.kind === chosen) ?? words[0]!;
  return (
    <>
      <span>about</span>
      <Word<AboutKind>
        label="About which point"
        chosen={chosen}
        choices={() => words.map((w) => ({ value: w.kind, word: many ? w.many : w.one, means: w.means }))}
        hover={(kind) => set({ hoveredAbout: kind === 'point' && !state.picked ? null : kind })}
        choose={(kind) => chooseAbout(kind)}
        more={chosen === 'point' ? [{ word: 'Keep this point as its pivot', act: () => keepPointAsPivot() }] : []}
      >
        {many ? word.many : word.one}
      </Word>
    </>
  );
}

function AxisWords({ state }: { state: Said }) {
  const axes = state.axes[state.verb];
  return (
    <span className="flex gap-0.5" role="group" aria-label="Axes">
      {letters.map((letter, i) => (
        <button
          key={letter}
          type="button"
          aria-pressed={axes[i]}
          title={`${letter}${keyHint(`axis.${letter.toLowerCase()}`)}`}
          onClick={() => toggleAxis(i)}
          className={`flex h-7 items-center gap-0.5 rounded px-1 font-bold ${axes[i] ? `${axisColors[i]} border-b-2 border-current` : 'text-ink-3 hover:bg-wash'}`}
        >
          {letter}
          <AxisNeedle axis={i} />
        </button>
      ))}
    </span>
  );
}

/** Plans of which only what is not wanted is foretold. */
const warned: Plan['kind'][] = ['remove', 'join', 'sure'];

function SecondLine() {
  const { notice, reading, selection, picking, foretold, locked, verb, caught, plan, follows, named } = useStore(
    useShallow((s) => ({
      notice: s.notice,
      reading: s.reading,
      selection: s.selection,
      picking: s.picking,
      foretold: s.foretold,
      locked: s.lead !== null && s.byId.has(s.lead.node.id) && isLocked(s, s.byId.get(s.lead.node.id)!),
      verb: s.verb,
      caught: s.caught,
      plan: s.plan?.kind ?? null,
      follows: s.follows,
      // What is asked for has been named; another press names another.
      named: (s.picking === 'target' || s.picking === 'parent') && s.plan !== null && !lacks(s.plan),
    })),
  );
  const text =
    notice?.kind === 'refusal'
      ? notice.text
      : picking
        ? (notice?.text ??
          (named && foretold
            ? foretold
            : named
              ? `Enter makes it, Esc leaves it; a press on another ${picking === 'parent' ? 'parent' : 'target'} names that.`
              : pickingWords[picking]))
        : caught
          ? `Snapped to ${caught.words}.${caught.inReach > 1 ? ` Tab: the next of ${caught.inReach}.` : ''}`
          : (notice?.text ??
            foretold ??
            (plan ? 'Enter makes it, Esc leaves it.' : follows ? '' : hint(verb, selection.length)));
  const color =
    notice?.kind === 'refusal'
      ? 'text-refusal'
      : notice?.kind === 'warning' || (!notice && foretold && (!plan || warned.includes(plan)))
        ? 'text-warning'
        : 'text-ink-2';
  const mark =
    notice?.kind === 'refusal'
      ? '✕ '
      : notice?.kind === 'warning' || (!notice && !picking && foretold && (!plan || warned.includes(plan)))
        ? '△ '
        : '';
  return (
    <div className="flex min-h-7 items-center gap-4 border-t border-line px-3 py-1" data-foot>
      <span className={`min-w-0 flex-1 ${color}`} role={notice?.kind === 'refusal' ? 'alert' : 'status'} data-hint>
        {mark}
        {text}
        {follows && `${text && ' '}${following}`}
      </span>
      {notice?.act && (
        <button
          type="button"
          className="btn"
          onClick={notice.act.do}
          {...(notice.kind === 'warning' ? { title: 'Enter' } : {})}
        >
          {notice.act.word}
        </button>
      )}
      {!notice && <WaysOut />}
      {!notice && <CheatWays />}
      {reading?.from && selection.length > 0 && <FromTo from={reading.from} to={reading.to} />}
      {!reading && locked && (
        <span className="text-warning">Locked: unlock it, or its collection, in the tree to edit it.</span>
      )}
    </div>
  );
}

/** As long as something does. */
const following =
  'It follows the pointer: a press on the stage or Enter keeps it; Esc, or a press elsewhere, puts it back.';

function hint(verb: Verb, count: number): string {
  if (count === 0) return `Click picks, Ctrl+click adds. ${navigationWords[ownSettings().navigation.set].means}.`;
  const handle = {
    move: 'Drag a needle, or type a length.',
    rotate: 'Drag an arc, or type degrees.',
    scale: 'Drag a pad, or type a factor.',
    pivot: 'Drag a needle; nothing but the pivot moves.',
  };
  return `${handle[verb]} Enter keeps it, Esc puts it back.`;
}

/** From what to what; while a handle is dragged, written at every picture, in a room of its own that moves nothing else. */
function FromTo({ from, to }: { from: string; to: string }) {
  const line = useRef<HTMLSpanElement>(null);
  const said = (was: string, now: string) => `was ${was} → now ${now}`;
  useEffect(
    () =>
      whileDragged((tried) => {
        const [words, text] = [line.current?.firstChild, tried && said(tried.reading.from, tried.reading.to)];
        if (!words || !text || words.nodeValue === text) return;
        if (words.nodeValue!.length !== text.length) line.current!.style.width = `${text.length}ch`;
        words.nodeValue = text;
      }),
    [],
  );
  const text = said(from, to);
  return (
    <span
      ref={line}
      className="h-4 shrink-0 font-mono text-[12px] leading-4 whitespace-pre text-ink-1 [contain:size_layout_style]"
      style={{ width: `${text.length}ch` }}
      data-reading
    >
      {text}
    </span>
  );
}
