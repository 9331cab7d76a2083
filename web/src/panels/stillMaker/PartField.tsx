import { useRef, useState, type PointerEvent } from 'react';
import type { StillAs } from '../../state/lightSlice';
import { stillPlan } from '../../acts/stills';
import { WholeNumber } from '../../controls/WholeNumber';
import { get, set } from '../../state/store';

type Part = { x: number; y: number; width: number; height: number } | null;

/** A rectangle of the picture, drawn on a small sheet in its shape; or typed in hundredths. */
export function PartField({ part, of }: { part: Part; of: StillAs['of'] }) {
  const sheet = useRef<HTMLDivElement>(null);
  const [from, setFrom] = useState<{ x: number; y: number } | null>(null);
  const plan = stillPlan({ ...get().stillAs, of });
  const aspect = plan ? plan.width / plan.height : 16 / 9;
  const at = (e: PointerEvent) => {
    const box = sheet.current!.getBoundingClientRect();
    const share = (v: number) => Math.min(1, Math.max(0, v));
    return { x: share((e.clientX - box.left) / box.width), y: share((e.clientY - box.top) / box.height) };
  };
  const drawn = (to: { x: number; y: number }) => {
    const width = Math.abs(to.x - from!.x);
    const height = Math.abs(to.y - from!.y);
    if (width > 0.02 && height > 0.02)
      set({ stillPart: { x: Math.min(to.x, from!.x), y: Math.min(to.y, from!.y), width, height } });
  };
  const field = (key: 'x' | 'y' | 'width' | 'height', word: string) => (
    <label className="flex items-center gap-1 text-[11px] text-ink-2">
      {word}
      <WholeNumber
        className="field w-[58px]"
        label={`${word} of the part, in hundredths`}
        value={part ? Math.round(part[key] * 100) : key === 'width' || key === 'height' ? 100 : 0}
        least={0}
        most={100}
        choose={(hundredths) => {
          if (hundredths === null) return;
          const next = { ...(part ?? { x: 0, y: 0, width: 1, height: 1 }), [key]: hundredths / 100 };
          next.width = Math.max(0.01, Math.min(next.width, 1 - next.x));
          next.height = Math.max(0.01, Math.min(next.height, 1 - next.y));
          set({ stillPart: next });
        }}
      />
    </label>
  );
  return (
    <span className="flex items-start gap-2">
      <div
        ref={sheet}
        className="relative shrink-0 cursor-crosshair border border-edge bg-plaster"
        style={{ width: Math.min(84, 56 * aspect), height: Math.min(84, 56 * aspect) / aspect }}
        title="Drag a rectangle; a press takes it away"
        data-part
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          setFrom(at(e));
          set({ stillPart: null });
        }}
        onPointerMove={(e) => from && drawn(at(e))}
        onPointerUp={() => setFrom(null)}
      >
        {part && (
          <span
            aria-hidden
            className="absolute border border-plum bg-wash"
            style={{
              left: `${part.x * 100}%`,
              top: `${part.y * 100}%`,
              width: `${part.width * 100}%`,
              height: `${part.height * 100}%`,
            }}
          />
        )}
      </div>
      <span className="grid grid-cols-2 gap-1">
        {field('x', 'left')}
        {field('y', 'top')}
        {field('width', 'wide')}
        {field('height', 'high')}
      </span>
    </span>
  );
}
