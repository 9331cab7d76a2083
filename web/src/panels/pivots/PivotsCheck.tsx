import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';
import type { StrayPivot, Vec3 } from '../../core/answers';
import { AnchorBox } from '../pivot/AnchorBox';
import { Name } from '../../controls/Name';
import { session } from '../../acts/session';
import { set, useStore } from '../../state/store';

/** Lists objects whose pivot lies outside what it turns, and mends the chosen ones in one step. Nothing but pivots moves. */
export function PivotsCheck() {
  const open = useStore((s) => s.open === 'pivots');
  return (
    <Dialog.Root open={open} onOpenChange={(now) => set({ open: now ? 'pivots' : null })} modal={false}>
      <Dialog.Portal>
        <Dialog.Content
          className="fixed top-16 right-[308px] z-30 flex max-h-[70vh] w-[380px] flex-col rounded-xl border border-line bg-paper p-4 shadow-float"
          aria-describedby={undefined}
          onInteractOutside={(e) => e.preventDefault()}
        >
          <Dialog.Title className="m-0 mb-1 text-[14px] font-semibold">Pivots away from their objects</Dialog.Title>
          {open && <List />}
          <Dialog.Close className="btn absolute top-3 right-3">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function List() {
  const byId = useStore((s) => s.byId);
  // Read anew after every step.
  const step = useStore((s) => `${s.stepNumber} ${s.waiting} ${s.notice?.text}`);
  const [strays, setStrays] = useState<StrayPivot[]>([]);
  // Those far away are rarely meant; the others are for the artist to choose.
  const [turned, setTurned] = useState<Set<string>>(new Set());
  const [target, setTarget] = useState<Vec3>([0, 0, 0]);
  const [hovered, setHovered] = useState<Vec3 | null>(null);
  useEffect(() => setStrays(session.core.strayPivots().toSorted((a, b) => Number(b.far) - Number(a.far))), [step]);
  const free = strays.filter((s) => !byId.get(s.node)?.locked);
  const chosen = free.filter((s) => s.far !== turned.has(s.node)).map((s) => s.node);
  if (strays.length === 0) return <p className="m-0 text-ink-2">Every pivot lies on or in what it turns.</p>;
  return (
    <>
      <p className="m-0 mb-2 text-ink-2">
        {strays.length === 1 ? '1 object turns' : `${strays.length} objects turn`} about a point outside its bounds.
        That may be meant, as with a hinge, or come from the file.
      </p>
      <ul className="m-0 min-h-0 flex-1 list-none overflow-auto p-0">
        {strays.map((stray) => (
          <li key={stray.node} className="flex min-h-7 items-center gap-2">
            <input
              type="checkbox"
              aria-label={`Mend ${byId.get(stray.node)?.name}`}
              disabled={byId.get(stray.node)?.locked ?? false}
              checked={chosen.includes(stray.node)}
              onChange={() => {
                const next = new Set(turned);
                if (!next.delete(stray.node)) next.add(stray.node);
                setTurned(next);
              }}
            />
            <button
              type="button"
              className="flex min-w-0 flex-1 rounded text-left hover:text-plum"
              onClick={() => session.select([stray.node])}
            >
              <Name text={byId.get(stray.node)?.name ?? ''} />
            </button>
            <span className={stray.far ? 'text-warning' : 'text-ink-2'}>
              {session.core.sayLength(stray.away)} {stray.far ? 'away, far' : 'away'}
            </span>
          </li>
        ))}
      </ul>
      <div className="mt-3 flex items-end gap-3">
        <AnchorBox present={target} hovered={hovered} hover={setHovered} put={setTarget} />
        <div className="flex flex-1 flex-col items-start gap-2">
          <span>
            Put {chosen.length === 1 ? 'the pivot' : `these ${chosen.length} pivots`} at{' '}
            <b className="font-semibold">{session.core.anchorInWords(hovered ?? target)}</b> of its own bounds.
          </span>
          <button
            type="button"
            className="btn border-plum bg-plum text-on-plum disabled:opacity-50"
            disabled={chosen.length === 0}
            onClick={() => session.keep({ do: 'movePivot', nodes: chosen, to: { anchor: target, of: 'own' } })}
          >
            Mend {chosen.length}
          </button>
        </div>
      </div>
    </>
  );
}
