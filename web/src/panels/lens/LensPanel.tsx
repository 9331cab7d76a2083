import type { NodeAnswer, Projection } from '../../core/answers';
import type { EditSetCamera } from '../../wire/apiTypes';
import { session } from '../../acts/session';
import { Figure, type Mode } from '../../controls/Figure';
import { angle, factor, length } from '../../controls/numbers';
import { startPicking } from '../../commands/placing';
import { CheatCorner } from '../../controls/CheatCorner';
import { middleCut } from '../../controls/middleCut';
import { OneOf } from '../../controls/OneOf';
import { Presets } from '../../controls/Presets';
import { Section } from '../../controls/Section';
import { get, useStore } from '../../state/store';

const projections: { value: Projection; word: string; means: string }[] = [
  { value: 'perspective', word: 'Perspective', means: 'What is far looks small' },
  { value: 'parallel', word: 'Parallel', means: 'Sizes do not change with distance' },
];

/** Millimetres. */
const lenses = [24, 35, 50, 85];

const sizes = ['1280×720', '1920×1080', '3840×2160', '1080×1080', '1080×1920', '2048×858'];

/** What a camera sees; acts on all cameras that are picked. */
export function LensPanel({ lead }: { lead: NodeAnswer }) {
  const selection = useStore((s) => s.selection);
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  if (!lead.node.camera) return null;
  const camera = session.core.commonCamera(selection);
  const change = (fields: Omit<EditSetCamera, 'do' | 'nodes'>): EditSetCamera => ({
    do: 'setCamera',
    nodes: get().selection,
    ...fields,
  });
  /** A picture's size or its proportion, as they are shown. */
  const sized = (text: string, proportion: boolean): EditSetCamera | null => {
    const size = session.core.pictureSizeOf(text);
    if (!size) return null;
    const usual = size.width * 9 === size.height * 16;
    const aspect = usual ? 0 : size.width / size.height;
    return change(proportion || size.proportion ? { aspect } : { pixels: size.width, aspect });
  };
  const number =
    (
      field:
        | 'fov'
        | 'focalLength'
        | 'height'
        | 'near'
        | 'far'
        | 'aspect'
        | 'pixels'
        | 'shiftX'
        | 'shiftY'
        | 'aperture'
        | 'focus',
    ) =>
    (value: number, mode: Mode) =>
      change({ [field]: value, mode });
  const metres = (v: number) => length(v, unit);
  return (
    <Section title="Camera" remark={camera.count > 1 ? `of ${camera.count} cameras` : undefined}>
      <OneOf
        label="Projection"
        value={camera.projection}
        choices={projections}
        choose={(projection) => session.keep(change({ projection }))}
      />
      <div className="mt-2 grid grid-cols-[92px_1fr] items-center gap-x-2 gap-y-1.5">
        {camera.projection !== 'parallel' && (
          <Figure
            word="Angle of view"
            unit="°"
            value={camera.fov}
            quantity="angle"
            shown={angle}
            edit={number('fov')}
            channel="camera.fov"
          />
        )}
        {camera.projection !== 'parallel' && (
          <Figure
            word="Focal length"
            unit="mm"
            value={camera.focalLength}
            quantity="factor"
            shown={(v) => v.toFixed(1)}
            edit={number('focalLength')}
            channel="camera.fov"
          >
            <Presets
              label="A lens of the trade"
              choices={lenses.map((mm) => ({ value: String(mm), word: `${mm} mm` }))}
              choose={(mm) => session.keep(change({ focalLength: Number(mm) }))}
            />
          </Figure>
        )}
        {camera.projection !== 'perspective' && (
          <Figure
            word="Height"
            unit={unit}
            value={camera.height}
            quantity="length"
            shown={metres}
            edit={number('height')}
            channel="camera.height"
          />
        )}
        <Figure
          word="Near"
          unit={unit}
          value={camera.near}
          quantity="length"
          shown={metres}
          none="as needed"
          edit={number('near')}
          channel="camera.near"
        />
        <Figure
          word="Far"
          unit={unit}
          value={camera.far}
          quantity="length"
          shown={metres}
          none="as needed"
          edit={number('far')}
          channel="camera.far"
        />
        <Figure
          word="Width : height"
          value={camera.aspect}
          quantity="factor"
          shown={factor}
          takes={(text) => sized(text, true)}
          edit={number('aspect')}
          channel="camera.aspect"
        >
          <button
            type="button"
            className="btn px-1.5"
            title="As usual: 16 to 9"
            onClick={() => session.keep(change({ aspect: 0 }))}
          >
            16 : 9
          </button>
        </Figure>
        <Figure
          word="Picture"
          unit="px"
          value={camera.pictureWidth}
          quantity="count"
          shown={(v) => `${Math.round(v)}${camera.pictureHeight === null ? '' : ` × ${camera.pictureHeight}`}`}
          takes={(text) => sized(text, false)}
          edit={number('pixels')}
          channel="camera.pixels"
        >
          <Presets
            label="A picture size of the trade"
            choices={sizes.map((size) => ({ value: size, word: size }))}
            choose={(size) => {
              const edit = sized(size, false);
              if (edit) session.keep(edit);
            }}
          />
        </Figure>
        <Figure
          word="Shift right"
          value={camera.shiftX}
          quantity="factor"
          shown={factor}
          edit={number('shiftX')}
          channel="camera.shiftX"
        />
        <Figure
          word="Shift up"
          value={camera.shiftY}
          quantity="factor"
          shown={factor}
          edit={number('shiftY')}
          channel="camera.shiftY"
        />
        {camera.projection !== 'parallel' && (
          <>
            <Figure
              word="Aperture"
              unit="f/"
              value={camera.aperture}
              quantity="factor"
              shown={(v) => v.toFixed(1)}
              none="all sharp"
              edit={number('aperture')}
              channel="camera.aperture"
            />
            {camera.aperture !== 0 && (
              <Figure
                word="Focus"
                unit={unit}
                value={camera.focus}
                quantity="length"
                shown={metres}
                edit={number('focus')}
                channel="camera.focus"
              >
                <button
                  type="button"
                  className="btn px-1.5"
                  title="Press a thing that is to be sharp, wherever it and the camera go"
                  onClick={() => startPicking('focus')}
                >
                  On…
                </button>
              </Figure>
            )}
          </>
        )}
      </div>
      {camera.aperture !== 0 && camera.focusName && (
        <p className="relative m-0 mt-1 flex items-center gap-1 text-ink-2">
          Sharp at {middleCut(camera.focusName, 20)}
          <button type="button" className="btn px-1.5" onClick={() => session.keep(change({ focusOn: '' }))}>
            as far as it says
          </button>
          <CheatCorner channel="camera.focusOn" />
        </p>
      )}
      <div className="mt-2">
        <button
          type="button"
          className="btn"
          title="The camera stands and looks as the active view does; what carries it stays"
          onClick={() => session.keep({ do: 'steer', node: lead.node.id, view: session.picture!.viewWorld() })}
        >
          Put it where this view is
        </button>
      </div>
    </Section>
  );
}
