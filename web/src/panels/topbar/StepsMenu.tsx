import { Popover } from 'radix-ui';
import { api } from '../../api/client';
import { session } from '../../state/session';
import { get, set, useStore } from '../../state/store';

/** The history as sentences, newest first. */
export function StepsMenu() {
  const steps = useStore((s) => s.steps);
  const load = () =>
    void session.guarded(async () => {
      const id = get().scene?.id;
      if (id) set({ steps: await api.steps(id) });
    });
  return (
    <Popover.Root onOpenChange={(open) => open && load()}>
      <Popover.Trigger className="btn-quiet">Steps</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="menu w-96" align="end" sideOffset={6} aria-label="Steps">
          {steps.length === 0 && <p className="m-2 text-ink-2">Nothing has been done in this scene yet.</p>}
          <ol className="m-0 list-none p-0">
            {steps.toReversed().map((step) => (
              <li key={step.number} className={`flex gap-2 px-2 py-1 ${step.undone ? 'text-ink-3' : ''}`}>
                <span className="w-7 shrink-0 text-right font-mono text-[11px] text-ink-2">{step.number}</span>
                <span>
                  {step.sentence}
                  {step.undone && ' (undone)'}
                </span>
              </li>
            ))}
          </ol>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
