import { Slider } from 'radix-ui';
import { useRef, useState } from 'react';
import type { Edit } from '../../core/answers';
import { CheatCorner } from '../../controls/CheatCorner';
import { session } from '../../acts/session';

/** How far a constraint pulls; while it is dragged it is only tried. */
export function Weight({
  label,
  value,
  channel,
  edit,
}: {
  label: string;
  value: number;
  /** The channel by which shots may have it of their own. */
  channel: string;
  edit: (weight: number) => Edit;
}) {
  const [tried, setTried] = useState<number | null>(null);
  // While it is tried, the panel shows what is tried.
  const stored = useRef(value);
  if (tried === null) stored.current = value;
  return (
    <>
      <Slider.Root
        value={[tried ?? value]}
        min={0}
        max={1}
        step={0.01}
        onValueChange={([v]) => {
          setTried(v!);
          session.preview([edit(v!)]);
        }}
        onValueCommit={([v]) => {
          setTried(null);
          session.preview([]);
          if (v !== stored.current) session.keep(edit(v!));
        }}
        title="Weight: how far it pulls"
        className="relative flex h-6 w-24 shrink-0 touch-none items-center"
      >
        <Slider.Track className="relative h-1 flex-1 rounded-full bg-line">
          <Slider.Range className="absolute h-full rounded-full bg-plum" />
        </Slider.Track>
        <Slider.Thumb aria-label={label} className="block h-4 w-4 rounded-full border-2 border-plum bg-paper" />
      </Slider.Root>
      <span className="relative w-10 shrink-0 text-right font-mono text-[11px] text-ink-2">
        <CheatCorner channel={channel} />
        {Math.round((tried ?? value) * 100)} %
      </span>
    </>
  );
}
