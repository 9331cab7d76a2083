import { Popover } from 'radix-ui';
import { floating } from '../controls/floating';
import { useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { isRefusal } from '../core/answers';
import { quantityOf } from '../acts/edits';
import { session } from '../acts/session';
import { get, set, useStore } from '../state/store';
import { presets, sayStep } from '../acts/words';

/** In which steps: none, a preset or a typed size; from where the drag begins, or on the grid of the space. */
export function StepWord() {
  const { verb, stepSizes, onGrid } = useStore(
    useShallow((s) => ({ verb: s.verb, stepSizes: s.stepSizes, onGrid: s.onGrid, unit: s.scene?.unit })),
  );
  const steps = stepSizes[verb];
  const [typed, setTyped] = useState('');
  const [open, setOpen] = useState(false);
  const take = (size: number) =>
    set({ stepSizes: { ...get().stepSizes, [verb]: size === 0 ? { ...steps, on: false } : { on: true, size } } });
  const enter = () => {
    if (typed.trim() === '') return;
    const understood = session.core.understand(typed, quantityOf(verb), false, 0);
    if (isRefusal(understood) || !(understood.value > 0)) {
      session.say({
        kind: 'refusal',
        text: isRefusal(understood) ? understood.detail : 'A step is larger than zero. Switch the steps off instead.',
      });
      return;
    }
    take(understood.value);
    setTyped('');
    setOpen(false);
  };
  const said = steps.on ? `in steps of ${sayStep(verb, steps.size)}${onGrid ? ', on the grid' : ''}` : 'smoothly';
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="word" aria-label={`Size of steps: ${said}`}>
        {said}
      </Popover.Trigger>
      <Popover.Portal container={floating()}>
        <Popover.Content className="menu w-64 p-3" side="top" align="start" sideOffset={8} collisionPadding={8}>
          <div role="radiogroup" aria-label="Steps" className="flex flex-wrap gap-1">
            {[0, ...presets[verb]].map((size) => (
              <button
                key={size}
                type="button"
                role="radio"
                aria-checked={steps.on ? steps.size === size : size === 0}
                className={`btn ${(steps.on ? steps.size === size : size === 0) ? 'border-plum bg-wash font-semibold text-plum' : ''}`}
                onClick={() => {
                  take(size);
                  setOpen(false);
                }}
              >
                {size === 0 ? 'smoothly' : sayStep(verb, size)}
              </button>
            ))}
          </div>
          <label className="mt-3 flex items-center justify-between gap-2">
            Another size
            <input
              className="field w-24"
              value={typed}
              placeholder={sayStep(verb, steps.size)}
              onChange={(e) => setTyped(e.target.value)}
              onKeyDown={(e) => {
                e.stopPropagation();
                if (e.key === 'Enter') enter();
                if (e.key === 'Escape') setOpen(false);
              }}
            />
          </label>
          <label className="mt-2 flex min-h-6 items-center gap-2">
            <input type="checkbox" checked={onGrid} onChange={(e) => set({ onGrid: e.target.checked })} />
            On the grid of the space, not from the start
          </label>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
