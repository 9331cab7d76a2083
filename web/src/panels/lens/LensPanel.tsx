import type { NodeAnswer, Projection } from '../../core/answers';
import type { EditSetCamera } from '../../wire/apiTypes';
import { session } from '../../acts/session';
import { Figure, type Mode } from '../../controls/Figure';
import { angle, factor, length } from '../../controls/numbers';
import { OneOf } from '../../controls/OneOf';
import { Section } from '../../controls/Section';
import { get, useStore } from '../../state/store';

const projections: { value: Projection; word: string; means: string }[] = [
  { value: 'perspective', word: 'Perspective', means: 'What is far looks small' },
  { value: 'parallel', word: 'Parallel', means: 'Sizes do not change with distance' },
];

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
  const number = (field: 'fov' | 'height' | 'near' | 'far' | 'aspect') => (value: number, mode: Mode) =>
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
          edit={number('near')}
          channel="camera.near"
        />
        <Figure
          word="Far"
          unit={unit}
          value={camera.far}
          quantity="length"
          shown={metres}
          edit={number('far')}
          channel="camera.far"
        />
        <Figure
          word="Width : height"
          value={camera.aspect}
          quantity="factor"
          shown={factor}
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
      </div>
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
