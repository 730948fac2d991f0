import type { Reader } from './use-readers.ts';

type Props = {
  /** What it is of, for those who hear it. */
  of: string;
  readers: readonly Reader[];
  given: number | null;
  due: string | null;
  onGiven: (actor: number | null) => void;
  onDue: (due: string | null) => void;
};

/** Whose work it is, and until when. */
export const GivenFields = ({ of, readers, given, due, onGiven, onDue }: Props) => (
  <>
    <select
      className="chip max-w-36 cursor-pointer text-[12.5px]"
      aria-label={`Given to: ${of}`}
      value={given ?? ''}
      onChange={({ target }) => onGiven(target.value === '' ? null : Number(target.value))}
    >
      <option value="">for nobody yet</option>
      {readers.map(({ actor, name }) => (
        <option key={actor} value={actor}>
          for {name}
        </option>
      ))}
    </select>
    <input
      type="date"
      className="input input-xs w-32"
      aria-label={`Due: ${of}`}
      value={due ?? ''}
      onChange={({ target }) => onDue(target.value === '' ? null : target.value)}
    />
  </>
);
