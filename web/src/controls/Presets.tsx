/** Values of the trade beside a figure: choosing one sets it, and the menu shows none as chosen. */
export function Presets(props: {
  label: string;
  choices: readonly { value: string; word: string }[];
  choose: (value: string) => void;
}) {
  return (
    <select
      className="field w-[62px] shrink-0 text-left font-sans"
      aria-label={props.label}
      value=""
      onChange={(e) => props.choose(e.target.value)}
    >
      <option value="">as…</option>
      {props.choices.map(({ value, word }) => (
        <option key={value} value={value}>
          {word}
        </option>
      ))}
    </select>
  );
}
