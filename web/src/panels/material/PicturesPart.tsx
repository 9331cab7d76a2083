import { DropdownMenu } from 'radix-ui';
import { X } from 'lucide-react';
import { useRef } from 'react';
import { api } from '../../api/client';
import type { MaterialReading, TextureUse } from '../../core/answers';
import { startBringing, withPicture, type MaterialFields } from '../../acts/materials';
import { session } from '../../acts/session';
import { floating } from '../../controls/floating';
import { NumberField } from '../../controls/NumberField';
import { angle, factor, length } from '../../controls/numbers';
import { get, useStore } from '../../state/store';

const channels = [
  { channel: 'BaseColor', word: 'Colour' },
  { channel: 'Normal', word: 'Bumps' },
  { channel: 'MetallicRoughness', word: 'Metal, rough' },
  { channel: 'Occlusion', word: 'Creases' },
  { channel: 'Emissive', word: 'Glow' },
] as const;

const wraps = [
  { value: 10497, word: 'repeated' },
  { value: 33648, word: 'mirrored' },
  { value: 33071, word: 'once, its edge goes on' },
];

const lyings = [
  { how: 'own', word: 'as the thing is made' },
  { how: 'box', word: 'as a box' },
  { how: 'flat', word: 'flat' },
] as const;

const sides = ['top', 'bottom', 'front', 'back', 'left', 'right'] as const;

/** The pictures of a material: which there are, how often they come, and how they lie. Of several materials none are shown. */
export function PicturesPart(props: {
  materials: MaterialReading[];
  attempt: (fields: MaterialFields) => void;
  keep: (fields: MaterialFields) => boolean;
}) {
  const { materials, keep } = props;
  const unit = useStore((s) => s.scene?.unit ?? 'm');
  const scene = useStore((s) => s.scene?.id ?? '');
  const material = materials.length === 1 ? materials[0]! : null;
  if (!material) return null;
  const { surface } = material;
  const uses = channels.flatMap(({ channel, word }) => {
    const use = surface.textures.find((t) => t.channel === channel);
    return use ? [{ use, word }] : [];
  });
  const base = uses[0]?.use;
  const put = (change: Partial<TextureUse>) =>
    keep({ textures: surface.textures.map((t) => ({ ...t, ...change })) } as MaterialFields);
  const lies = surface.lies ?? { how: 'own' as const, metres: 1, aspect: 1, true: true, from: 'top' as const };
  const lay = (change: Partial<typeof lies>) => keep({ lies: { ...lies, ...change } } as MaterialFields);
  return (
    <div className="mt-2">
      {uses.map(({ use, word }) => (
        <div key={use.channel} className="mb-1 flex items-center gap-2">
          <img
            src={api.pictureAt(scene, use.image)}
            alt=""
            className="h-7 w-7 rounded border border-line object-cover"
          />
          <span className="min-w-0 flex-1 truncate">
            {word}
            <span className="text-ink-2"> · {nameOf(use.image)}</span>
          </span>
          {use.strength !== null && (
            <NumberField
              label={`Strength of ${word.toLowerCase()}`}
              value={use.strength}
              quantity="factor"
              shown={factor}
              narrow
              keep={(strength) => keep({ textures: withPicture(surface, use.channel, { strength }) } as MaterialFields)}
            />
          )}
          <button
            type="button"
            className="grid h-6 w-6 place-items-center rounded text-ink-2 hover:text-plum"
            aria-label={`Take off the picture of ${word.toLowerCase()}`}
            title="Take it off"
            onClick={() => keep({ textures: withPicture(surface, use.channel, null) } as MaterialFields)}
          >
            <X size={13} aria-hidden />
          </button>
        </div>
      ))}
      <AddPicture material={material} keep={keep} />
      {base && (
        <div className="mt-1.5 grid grid-cols-[92px_1fr] items-center gap-x-2 gap-y-1.5">
          <label className="text-ink-2" htmlFor="lies">
            Lies
          </label>
          <select
            id="lies"
            className="field text-left"
            value={lies.how}
            onChange={(e) => lay({ how: e.target.value as 'own' })}
          >
            {lyings.map(({ how, word }) => (
              <option key={how} value={how}>
                {word}
              </option>
            ))}
          </select>
          {lies.how === 'flat' && (
            <>
              <label className="text-ink-2" htmlFor="lies-from">
                From
              </label>
              <select
                id="lies-from"
                className="field text-left"
                value={lies.from}
                onChange={(e) => lay({ from: e.target.value as 'top' })}
              >
                {sides.map((side) => (
                  <option key={side}>{side}</option>
                ))}
              </select>
            </>
          )}
          {lies.how !== 'own' && (
            <>
              <span className="text-ink-2">1 picture</span>
              <span className="flex items-center gap-1.5">
                <NumberField
                  label="Metres a picture"
                  value={lies.metres}
                  quantity="length"
                  shown={(v) => length(v, unit)}
                  keep={(metres) => lay({ metres })}
                />
                <label
                  className="flex shrink-0 items-center gap-1"
                  title="A metre of it is a metre, whatever the scale of the thing"
                >
                  <input
                    type="checkbox"
                    className="accent-plum"
                    checked={lies.true}
                    onChange={(e) => lay({ true: e.target.checked })}
                  />
                  true size
                </label>
              </span>
            </>
          )}
          <Pair
            word="Repeat"
            value={base.repeat ?? [1, 1]}
            shown={factor}
            quantity="factor"
            keep={(repeat) => put({ repeat })}
          />
          <Pair
            word="Offset"
            value={base.offset ?? [0, 0]}
            shown={factor}
            quantity="factor"
            keep={(offset) => put({ offset })}
          />
          <span className="text-ink-2">Turn</span>
          <NumberField
            label="Turn of the picture"
            value={base.turn}
            quantity="angle"
            shown={(v) => `${angle(v)}°`}
            keep={(turn) => put({ turn })}
          />
          <label className="text-ink-2" htmlFor="wraps">
            Beyond it
          </label>
          <select
            id="wraps"
            className="field text-left"
            value={base.wrapS}
            onChange={(e) => put({ wrapS: Number(e.target.value), wrapT: Number(e.target.value) })}
          >
            {wraps.map(({ value, word }) => (
              <option key={value} value={value}>
                {word}
              </option>
            ))}
          </select>
        </div>
      )}
    </div>
  );
}

function nameOf(hash: string): string {
  return get().kept.find((p) => p.hash === hash)?.name ?? 'picture';
}

function Pair(props: {
  word: string;
  value: number[];
  shown: (v: number) => string;
  quantity: 'factor';
  keep: (both: [number, number]) => boolean;
}) {
  const [u, v] = [props.value[0]!, props.value[1]!];
  return (
    <>
      <span className="text-ink-2">{props.word}</span>
      <span className="flex gap-1">
        <NumberField
          label={`${props.word} across`}
          value={u}
          quantity={props.quantity}
          shown={props.shown}
          narrow
          keep={(to) => props.keep([to, v])}
        />
        <NumberField
          label={`${props.word} down`}
          value={v}
          quantity={props.quantity}
          shown={props.shown}
          narrow
          keep={(to) => props.keep([u, to])}
        />
      </span>
    </>
  );
}

/** A picture for a channel: one that is kept, or a file. */
function AddPicture({ material, keep }: { material: MaterialReading; keep: (fields: MaterialFields) => boolean }) {
  const kept = useStore((s) => s.kept);
  const scene = useStore((s) => s.scene?.id ?? '');
  const file = useRef<HTMLInputElement>(null);
  const channel = useRef('BaseColor');
  const free = channels.filter((c) => !material.surface.textures.some((t) => t.channel === c.channel));
  return (
    <>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className="btn" disabled={free.length === 0}>
          Add a picture
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal container={floating()}>
          <DropdownMenu.Content
            className="menu max-h-[420px] overflow-auto"
            align="start"
            sideOffset={4}
            collisionPadding={8}
          >
            {free.map((c) => (
              <DropdownMenu.Sub key={c.channel}>
                <DropdownMenu.SubTrigger className="menu-item">for {c.word.toLowerCase()}</DropdownMenu.SubTrigger>
                <DropdownMenu.Portal container={floating()}>
                  <DropdownMenu.SubContent className="menu max-h-[360px] overflow-auto" collisionPadding={8}>
                    <DropdownMenu.Item
                      className="menu-item"
                      onSelect={() => {
                        channel.current = c.channel;
                        setTimeout(() => file.current?.click());
                      }}
                    >
                      A file …
                    </DropdownMenu.Item>
                    {kept.map((p) => (
                      <DropdownMenu.Item
                        key={p.hash}
                        className="menu-item flex items-center gap-2"
                        onSelect={() =>
                          setTimeout(() =>
                            keep({
                              textures: withPicture(material.surface, c.channel, { image: p.hash }),
                            } as MaterialFields),
                          )
                        }
                      >
                        <img src={api.pictureAt(scene, p.hash)} alt="" className="h-5 w-5 rounded object-cover" />
                        <span className="max-w-[180px] truncate">{p.name}</span>
                      </DropdownMenu.Item>
                    ))}
                  </DropdownMenu.SubContent>
                </DropdownMenu.Portal>
              </DropdownMenu.Sub>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <input
        ref={file}
        type="file"
        accept="image/png,image/jpeg,image/webp"
        className="hidden"
        aria-label="A picture for the material"
        data-picture-for
        onChange={(e) => {
          const chosen = e.target.files?.[0];
          e.target.value = '';
          if (chosen) startBringing(chosen, chosen.name, null, { material: material.id, channel: channel.current });
          else session.say(null);
        }}
      />
    </>
  );
}
