import { Slider } from 'radix-ui';
import { useState } from 'react';
import { OneOf } from './OneOf';

const ways = [
  { value: 'beside', word: 'Side by side' },
  { value: 'wipe', word: 'Wipe' },
  { value: 'difference', word: 'Difference', means: 'What is black is the same in both' },
] as const;

/** Two pictures compared: side by side, one wiped over the other, or what is not the same. Null: there is only one. */
export function TwoPictures({ a, b, names }: { a: string | null; b: string; names: [string | null, string] }) {
  const [way, setWay] = useState<(typeof ways)[number]['value']>('beside');
  const [at, setAt] = useState(50);
  const one = 'absolute inset-0 h-full w-full object-contain';
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2 px-3 py-2">
      {a !== null && <OneOf label="How they are compared" value={way} choices={ways} choose={setWay} />}
      {a === null || way === 'beside' ? (
        <div className="flex min-h-0 flex-1 gap-2" data-two="beside">
          {a !== null && <Beside src={a} name={names[0]!} />}
          <Beside src={b} name={names[1]} />
        </div>
      ) : (
        <div className="relative min-h-0 flex-1 bg-black/80" data-two={way}>
          <img src={a} alt={names[0]!} className={one} />
          <img
            src={b}
            alt={names[1]}
            className={`${one} ${way === 'difference' ? 'mix-blend-difference' : ''}`}
            style={way === 'wipe' ? { clipPath: `inset(0 0 0 ${at}%)` } : undefined}
          />
        </div>
      )}
      {a !== null && way === 'wipe' && (
        <Slider.Root
          className="relative flex h-6 touch-none items-center"
          value={[at]}
          min={0}
          max={100}
          step={1}
          onValueChange={([v]) => setAt(v!)}
        >
          <Slider.Track className="relative h-[3px] w-full rounded bg-edge">
            <Slider.Range className="absolute h-full rounded bg-plum" />
          </Slider.Track>
          <Slider.Thumb
            className="block h-4 w-4 rounded-full border border-ink-2 bg-paper focus-visible:ring-2 focus-visible:ring-plum"
            aria-label={`Where ${names[0]} ends and ${names[1]} begins`}
          />
        </Slider.Root>
      )}
    </div>
  );
}

function Beside({ src, name }: { src: string; name: string }) {
  return (
    <figure className="m-0 flex min-h-0 min-w-0 flex-1 flex-col gap-1">
      <img src={src} alt={name} className="min-h-0 w-full flex-1 object-contain" />
      <figcaption className="truncate text-center text-ink-2">{name}</figcaption>
    </figure>
  );
}
