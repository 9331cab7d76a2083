import { RotateCw } from 'lucide-react';
import { useEffect, useState } from 'react';
import { imageSize } from '../../acts/imageSize';
import { bringPicture } from '../../acts/materials';
import { session } from '../../acts/session';
import { isRefusal } from '../../core/answers';
import { later } from '../../controls/later';
import { OneOf } from '../../controls/OneOf';
import { OverStage } from '../../controls/OverStage';
import { set, useStore } from '../../state/store';
import type { Bringing } from '../../state/materialsSlice';
import { cut, saidBytes, type Cut } from './cut';

/** Fetched when a picture first comes in. */
const Cropper = later(() => import('./Cropper').then((m) => m.default), { leave: () => set({ bringing: null }) });

const mostSide = 8192;
const mostBytes = 32 * 1024 * 1024;

const sizes = [
  { value: 'whole', word: 'As it is', most: Infinity },
  { value: '2048', word: '2048', most: 2048 },
  { value: '1024', word: '1024', most: 1024 },
  { value: '512', word: '512', most: 512 },
  { value: '256', word: '256', most: 256 },
] as const;

type Size = (typeof sizes)[number]['value'];

/** A picture on its way in: which part of it, which way up, how large. What is left out is not stored. */
export function PictureIn() {
  const bringing = useStore((s) => s.bringing);
  return bringing ? <Bring key={bringing.name + bringing.image.size} bringing={bringing} /> : null;
}

function Bring({ bringing }: { bringing: Bringing }) {
  const { image, name, nodes, into } = bringing;
  const [address, setAddress] = useState<string | null>(null);
  const [full, setFull] = useState<{ width: number; height: number } | null>(null);
  const [area, setArea] = useState<Cut['area'] | null>(null);
  const [turn, setTurn] = useState(0);
  const [size, setSize] = useState<Size>('whole');
  const [shape, setShape] = useState<'free' | 'square'>('free');
  const [metres, setMetres] = useState(() => session.core.sayLength(0.6));
  const [made, setMade] = useState<{ blob: Blob; width: number; height: number } | null>(null);
  const [busy, setBusy] = useState(false);

  useEffect(() => {
    let gone = false;
    let made: string | null = null;
    void (async () => {
      const found = image.size > 0 && image.size <= mostBytes ? await imageSize(image) : null;
      if (gone) return;
      const no =
        image.size === 0
          ? 'The picture is empty. Choose another file.'
          : image.size > mostBytes
            ? 'A picture has at most 32 MB. Make it smaller first.'
            : !found
              ? 'This is no picture that can be read. Choose a PNG, JPEG or WebP file.'
              : found.width > mostSide || found.height > mostSide
                ? `The picture has ${found.width} × ${found.height} pixels; at most ${mostSide} a side are taken. Make it smaller first.`
                : null;
      if (no) {
        set({ bringing: null });
        session.say({ kind: 'refusal', text: no });
        return;
      }
      made = URL.createObjectURL(image);
      const bitmap = await createImageBitmap(image).catch(() => null);
      if (gone) return;
      if (!bitmap) {
        set({ bringing: null });
        session.say({ kind: 'refusal', text: 'The picture is damaged or cut short. Choose another file.' });
        return;
      }
      // Cameras write pictures lying on their side; here they stand as they are shown.
      setFull({ width: bitmap.width, height: bitmap.height });
      bitmap.close();
      setAddress(made);
    })();
    return () => {
      gone = true;
      if (made) URL.revokeObjectURL(made);
    };
  }, [image]);

  const most = sizes.find((s) => s.value === size)!.most;
  useEffect(() => {
    if (!area) return;
    let gone = false;
    const soon = setTimeout(() => {
      void cut(image, { area, turn, most }).then((done) => {
        if (!gone) setMade(done);
      });
    }, 150);
    return () => {
      gone = true;
      clearTimeout(soon);
    };
  }, [image, area, turn, most]);

  const typed = metres.trim() === '' ? null : session.core.understand(metres, 'length', true, 0);
  const wide = typed && !isRefusal(typed) ? typed.value : 0;
  const lies = nodes !== null;
  const bring = () => {
    if (!made || busy) return;
    if (lies && typed && !(wide > 0)) {
      session.say({
        kind: 'refusal',
        text: isRefusal(typed)
          ? typed.detail
          : 'A picture is wider than nothing: write how much it shows, as 60cm, or leave it empty.',
      });
      return;
    }
    setBusy(true);
    void bringPicture({ image: made.blob, name, metres: lies && typed ? wide : null }).then((done) => {
      if (!done) setBusy(false);
    });
  };
  const to = into ? 'Give it to the material' : nodes ? 'Make a material of it' : 'Keep it';
  return (
    <OverStage
      title={`Bring in ${name}`}
      leave={() => set({ bringing: null })}
      remark={
        full && (
          <span className="font-mono" data-size>
            {full.width} × {full.height} · {saidBytes(image.size)} →{' '}
            {made ? `${made.width} × ${made.height} · ${saidBytes(made.blob.size)}` : '…'}
          </span>
        )
      }
    >
      <div className="flex min-h-0 flex-1 gap-3 p-3">
        <div className="relative min-h-0 min-w-0 flex-1 overflow-hidden rounded-lg bg-line" data-crop>
          {address && full && (
            <Cropper image={address} full={full} turn={turn} square={shape === 'square'} picked={setArea} />
          )}
        </div>
        <div className="flex w-[220px] shrink-0 flex-col gap-3">
          <div>
            <span className="text-ink-2">Part</span>
            <OneOf
              label="Part of the picture"
              value={shape}
              choices={[
                { value: 'free', word: 'As it is shaped' },
                { value: 'square', word: 'Square' },
              ]}
              choose={setShape}
            />
            <p className="m-0 mt-1 text-ink-2">Drag it under the frame; the wheel makes the part smaller.</p>
          </div>
          <button
            type="button"
            className="btn flex items-center gap-1.5 self-start"
            onClick={() => setTurn((turn + 90) % 360)}
          >
            <RotateCw size={13} aria-hidden /> Turn by a quarter
          </button>
          <div>
            <span className="text-ink-2">Longest side, pixels</span>
            <OneOf label="Longest side" value={size} choices={sizes} choose={setSize} />
          </div>
          {lies && (
            <label className="flex items-center gap-2">
              <span className="text-ink-2">1 picture is</span>
              <input
                className="field w-16"
                aria-label="Metres a picture"
                value={metres}
                placeholder="as made"
                onChange={(e) => setMetres(e.target.value)}
                onKeyDown={(e) => {
                  e.stopPropagation();
                  if (e.key === 'Enter') bring();
                }}
              />
              wide
            </label>
          )}
          <p className="m-0 text-ink-2">
            Only what is inside the frame is stored, without what the file says beside its pixels.
          </p>
          <div className="mt-auto flex gap-2">
            <button
              type="button"
              className="btn border-plum bg-wash font-semibold text-plum"
              disabled={!made || busy}
              onClick={bring}
            >
              {to}
            </button>
            <button type="button" className="btn" onClick={() => set({ bringing: null })}>
              Leave
            </button>
          </div>
        </div>
      </div>
    </OverStage>
  );
}
