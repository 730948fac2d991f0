import type { ComponentProps } from 'react';

type Props = Omit<ComponentProps<'input'>, 'onChange'> & {
  label: string;
  onText: (text: string) => void;
  /** What the server said of it. */
  refusal?: string | null;
  help?: string;
};

/** A field of a form at the door: its label above, what is wrong with it below. */
export function DoorField({ label, onText, refusal = null, help, ...field }: Props) {
  return (
    <label className="flex flex-col gap-1">
      <span className="text-faint">{label}</span>
      <input
        {...field}
        aria-label={label}
        aria-invalid={refusal !== null}
        className="input input-sm w-full"
        onChange={({ target }) => onText(target.value)}
      />
      {help && refusal === null && <span className="text-[12.5px] text-faint">{help}</span>}
      {refusal !== null && (
        <span role="alert" className="text-[12.5px] text-error">
          {refusal}
        </span>
      )}
    </label>
  );
}
