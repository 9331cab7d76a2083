import { Slider } from 'radix-ui';
import type { Edit } from '../../core/answers';
import { CheatCorner } from '../../controls/CheatCorner';
import { NumberField } from '../../controls/NumberField';
import { useSliding } from '../../controls/sliding';
import { session } from '../../acts/session';

/** How far a constraint pulls: dragged, where it is only tried meanwhile, or typed as a share of one or in per cent. */
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
  const { at, slider } = useSliding({
    value,
    attempt: (v) => session.preview([edit(v)]),
    keep: (v) => session.keep(edit(v)),
    putBack: () => session.preview([]),
  });
  return (
    <>
      <Slider.Root
        {...slider}
        value={[at]}
        min={0}
        max={1}
        step={0.01}
        title="Weight: how far it pulls"
        className="relative flex h-6 w-20 shrink-0 touch-none items-center"
      >
        <Slider.Track className="relative h-1 flex-1 rounded-full bg-line">
          <Slider.Range className="absolute h-full rounded-full bg-plum" />
        </Slider.Track>
        <Slider.Thumb aria-label={label} className="block h-4 w-4 rounded-full border-2 border-plum bg-paper" />
      </Slider.Root>
      <span className="relative w-14 shrink-0">
        <NumberField
          label={`${label}, typed`}
          value={at}
          quantity="factor"
          narrow
          shown={(v) => `${Math.round(v * 100)} %`}
          keep={(v) => session.keep(edit(v > 1 ? v / 100 : v))}
        />
        <CheatCorner channel={channel} />
      </span>
    </>
  );
}
