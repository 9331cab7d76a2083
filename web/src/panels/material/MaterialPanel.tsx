import { useEffect, useMemo, useState } from 'react';
import type { NodeAnswer, Surface } from '../../core/answers';
import { drawnPicked, makeMaterial, setMaterials, type MaterialFields } from '../../acts/materials';
import { session } from '../../acts/session';
import { CheatCorner } from '../../controls/CheatCorner';
import { ColourPicker } from '../../controls/ColourPicker';
import { factor } from '../../controls/numbers';
import { OneOf } from '../../controls/OneOf';
import { Section } from '../../controls/Section';
import { set, useStore } from '../../state/store';
import { Chooser } from './Chooser';
import { PicturesPart } from './PicturesPart';
import { Share } from './Share';
import { distinct } from '../../core/colour';

const modes = [
  { value: 'opaque', word: 'Solid', means: 'Nothing is seen through it' },
  { value: 'mask', word: 'Cut out', means: 'It is there or not, by how much its picture lets through' },
  { value: 'blend', word: 'See-through', means: 'What is behind it shows through' },
] as const;

/** The value that all have; null where they differ. */
export function common<T>(all: Surface[], of: (surface: Surface) => T): T | null {
  const first = all[0] && of(all[0]);
  return first !== undefined && all.every((s) => JSON.stringify(of(s)) === JSON.stringify(first)) ? first : null;
}

/** What the picked are made of, live; of several that differ each material is changed. */
export function MaterialPanel({ lead }: { lead: NodeAnswer }) {
  const selection = useStore((s) => s.selection);
  const materials = useStore((s) => s.materials);
  const slot = useStore((s) => s.slot);
  const shot = useStore((s) => s.shot);
  const id = lead.node.id;
  useEffect(() => set({ slot: 0 }), [id]);
  const [more, setMore] = useState(false);
  // What the core says changes with the materials, and with what the lead is made of.
  // oxlint-disable-next-line exhaustive-deps
  const made = useMemo(() => session.core.madeOf(selection, slot), [selection, slot, materials, lead, shot]);
  if (made.count === 0) return null;
  const ids = made.materials.filter((m) => m !== '');
  const some = ids.flatMap((m) => materials.find((one) => one.id === m) ?? []);
  const surfaces = some.map((m) => m.surface);
  const first = made.slots[slot] ?? '';
  const named = materials.find((m) => m.id === first);
  const attempt = (fields: MaterialFields) => {
    if (!session.preview(setMaterials(ids, fields))) return;
    const what = some.length === 1 ? some[0]!.name : `${some.length} materials`;
    const users = new Set(ids.flatMap((m) => session.core.materialUsers(m))).size;
    session.say({ kind: 'info', text: `Changes ${what} on ${users} ${users === 1 ? 'object' : 'objects'}.` });
  };
  const keep = (fields: MaterialFields) => session.keep(...setMaterials(ids, fields));
  const chips = distinct(materials.map((m) => m.surface.color));
  const color = common(surfaces, (s) => s.color);
  const emissive = common(surfaces, (s) => s.emissive);
  return (
    <Section
      title="Material"
      remark={
        made.materials.length > 1 ? `${made.materials.length} differ` : made.count > 1 ? `of ${made.count}` : undefined
      }
    >
      {made.slots.length > 1 && (
        <div className="mb-2 flex items-center gap-1" role="radiogroup" aria-label="Slot">
          <span className="mr-1 text-ink-2">Slot</span>
          {made.slots.map((_, i) => (
            <button
              key={i}
              type="button"
              role="radio"
              aria-checked={i === slot}
              className={`btn px-2 ${i === slot ? 'border-plum bg-wash font-semibold text-plum' : ''}`}
              title={materials.find((m) => m.id === made.slots[i])?.name ?? 'No material'}
              onClick={() => set({ slot: i })}
            >
              {i + 1}
            </button>
          ))}
        </div>
      )}
      <span className="relative flex min-w-0 items-center gap-1.5">
        <Chooser current={first} slots={made.slots.length} />
        <CheatCorner channel={`material:${slot}`} />
      </span>
      {named && (
        <div className="mt-1.5 flex flex-wrap items-center gap-x-2 text-ink-2">
          <span>
            {made.others === 0 ? 'Nothing else has it' : `${made.others} more ${made.others === 1 ? 'has' : 'have'} it`}
          </span>
          {made.others > 0 && (
            <button
              type="button"
              className="word"
              title="A material of its own for what is picked, like this one"
              onClick={() => makeMaterial(first, drawnPicked(), made.slots.length > 1 ? slot : null)}
            >
              Own copy
            </button>
          )}
        </div>
      )}
      {surfaces.length > 0 && (
        <>
          <div className="mt-2 grid grid-cols-[92px_1fr] items-center gap-x-2 gap-y-1.5">
            <span className="text-ink-2">Colour</span>
            <ColourPicker
              label="Colour of the material"
              value={color}
              chips={chips}
              attempt={(to) => attempt({ color: to })}
              keep={(to) => keep({ color: to })}
              leave={() => void session.preview([])}
            />
            <Share
              word="Roughness"
              value={common(surfaces, (s) => s.roughness)}
              attempt={attempt}
              keep={keep}
              field="roughness"
            />
            <Share
              word="Metalness"
              value={common(surfaces, (s) => s.metalness)}
              attempt={attempt}
              keep={keep}
              field="metalness"
            />
          </div>
          <PicturesPart materials={some} attempt={attempt} keep={keep} />
          <button
            type="button"
            className="mt-2 rounded text-ink-2 hover:text-plum"
            aria-expanded={more}
            onClick={() => setMore(!more)}
          >
            {more ? 'Less' : 'More: seen through, glow, sides …'}
          </button>
          {more && (
            <div className="mt-1.5 flex flex-col gap-2">
              <OneOf
                label="Seen through"
                value={common(surfaces, (s) => s.alphaMode)}
                choices={modes}
                choose={(alphaMode) => keep({ alphaMode })}
              />
              <div className="grid grid-cols-[92px_1fr] items-center gap-x-2 gap-y-1.5">
                <Share
                  word="Opacity"
                  value={common(surfaces, (s) => s.opacity)}
                  attempt={attempt}
                  keep={keep}
                  field="opacity"
                />
                {surfaces.some((s) => s.alphaMode === 'mask') && (
                  <Share
                    word="Cut at"
                    value={common(surfaces, (s) => s.alphaCutoff)}
                    attempt={attempt}
                    keep={keep}
                    field="alphaCutoff"
                  />
                )}
                <span className="text-ink-2">Glow</span>
                <ColourPicker
                  label="Glow of the material"
                  value={emissive}
                  chips={chips}
                  attempt={(to) => attempt({ emissive: to })}
                  keep={(to) => keep({ emissive: to })}
                  leave={() => void session.preview([])}
                />
                <Share
                  word="Strength"
                  value={common(surfaces, (s) => s.emissiveStrength)}
                  attempt={attempt}
                  keep={keep}
                  field="emissiveStrength"
                  most={1e6}
                />
              </div>
              <Tick
                word="Seen from both sides"
                all={surfaces}
                of={(s) => s.doubleSided}
                keep={(doubleSided) => keep({ doubleSided })}
              />
              <Tick
                word="Without light and shade"
                all={surfaces}
                of={(s) => s.unlit}
                keep={(unlit) => keep({ unlit })}
              />
            </div>
          )}
        </>
      )}
      {surfaces.length === 0 && (
        <p className="m-0 mt-2 text-ink-2">
          Made of nothing in particular, shown as {factor(0.9)} rough clay.{' '}
          <button
            type="button"
            className="word"
            onClick={() => makeMaterial(null, drawnPicked(), made.slots.length > 1 ? slot : null)}
          >
            Make a material
          </button>
        </p>
      )}
    </Section>
  );
}

function Tick(props: { word: string; all: Surface[]; of: (s: Surface) => boolean; keep: (on: boolean) => void }) {
  const value = common(props.all, props.of);
  return (
    <label className="flex items-center gap-2">
      <input
        type="checkbox"
        className="accent-plum"
        checked={value === true}
        ref={(box) => {
          if (box) box.indeterminate = value === null;
        }}
        onChange={(e) => props.keep(e.target.checked)}
      />
      {props.word}
    </label>
  );
}
