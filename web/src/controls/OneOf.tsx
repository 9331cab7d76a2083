/** A few choices side by side, of which one holds; none where several objects differ. */
export function OneOf<T extends string>(props: {
  label: string;
  value: T | null;
  choices: readonly { value: T; word: string; means?: string }[];
  choose: (value: T) => void;
}) {
  return (
    <div role="radiogroup" aria-label={props.label} className="flex flex-wrap gap-1">
      {props.choices.map(({ value, word, means }) => (
        <button
          key={value}
          type="button"
          role="radio"
          aria-checked={value === props.value}
          title={means}
          className={`btn ${value === props.value ? 'border-plum bg-wash font-semibold text-plum' : ''}`}
          onClick={() => value !== props.value && props.choose(value)}
        >
          {word}
        </button>
      ))}
    </div>
  );
}
