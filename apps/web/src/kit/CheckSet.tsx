type Props<Name extends string> = {
  names: readonly (readonly [Name, string])[];
  chosen: readonly Name[];
  disabled?: boolean;
  onChange: (chosen: Name[]) => void;
};

/** Some of a few names, each to be ticked; they are told in their own order. */
export const CheckSet = <Name extends string>({ names, chosen, disabled = false, onChange }: Props<Name>) =>
  names.map(([name, words]) => (
    <label key={name} className="flex min-h-6 cursor-pointer items-center gap-1.5">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        disabled={disabled}
        checked={chosen.includes(name)}
        onChange={({ target }) =>
          onChange(
            names.map(([one]) => one).filter((one) => (one === name ? target.checked : chosen.includes(one))),
          )
        }
      />
      {words}
    </label>
  ));
