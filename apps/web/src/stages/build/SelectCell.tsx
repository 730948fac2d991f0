/** A cell that is one of some choices; the empty one is what the rule says. */
export const SelectCell = <Value extends string>({
  label,
  value,
  choices,
  onChoose,
}: {
  label: string;
  value: Value;
  choices: readonly { value: Value; words: string }[];
  onChoose: (value: Value) => void;
}) => (
  <select
    className={`plain-field w-full cursor-pointer truncate rounded hover:bg-base-300/60 ${value === '' ? 'text-faint' : ''}`}
    tabIndex={-1}
    aria-label={label}
    value={value}
    onChange={({ target }) => onChoose(target.value as Value)}
  >
    {choices.map((one) => (
      <option key={one.value} value={one.value}>
        {one.words}
      </option>
    ))}
  </select>
);
