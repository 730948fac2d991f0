import type { Outlet, OutletProblem } from '@sprig/core/outlets';
import { createContext, type ReactNode, useContext, useState } from 'react';
import { CheckSet } from '../../kit/CheckSet.tsx';
import { readMoneyOrNone, readWhole } from '../../kit/read-typed.ts';
import { partAt, withPart } from './outlet-path.ts';

export type OutletEditing = {
  outlet: Outlet;
  problems: readonly OutletProblem[];
  readOnly: boolean;
  /** What is typed into fields of numbers and is none, by its place. */
  unread: Readonly<Record<string, string>>;
  onUnread: (unread: Readonly<Record<string, string>>) => void;
  onChange: (outlet: Outlet) => void;
};
export const OutletContext = createContext<OutletEditing | null>(null);

export function useOutletEditing(): OutletEditing & {
  put: (at: string, value: unknown) => void;
  wrong: (at: string) => string | undefined;
} {
  const editing = useContext(OutletContext);
  if (!editing) throw new Error('A field of an outlet stands within its form.');
  return {
    ...editing,
    put: (at, value) => editing.onChange(withPart(editing.outlet, at, value)),
    wrong: (at) => editing.problems.find((problem) => problem.at === at)?.words,
  };
}

type FieldProps = { at: string; label: string; width?: string };

export function TextPart({ at, label, width = 'w-28' }: FieldProps) {
  const { outlet, put, wrong, readOnly } = useOutletEditing();
  return (
    <input
      className={`input input-xs ${width} ${wrong(at) ? 'input-error' : ''}`}
      aria-label={label}
      aria-invalid={wrong(at) !== undefined}
      title={wrong(at) ?? label}
      readOnly={readOnly}
      value={String(partAt(outlet, at) ?? '')}
      onChange={({ target }) => put(at, target.value)}
    />
  );
}

/** A whole number; empty stands for none where there may be none. */
export function NumberPart({
  at,
  label,
  width = 'w-16',
  scale = 1,
  mayMiss = false,
  mayBeZero = false,
}: FieldProps & { scale?: number; mayMiss?: boolean; mayBeZero?: boolean }) {
  const { outlet, put, wrong, readOnly, unread, onUnread } = useOutletEditing();
  const value = partAt(outlet, at) as number | null | undefined;
  const [typed, setTyped] = useState<string | null>(null);
  const type = (text: string) => {
    setTyped(text);
    const read = scale === 1 ? readWhole(text) : readAmount(text);
    const { [at]: _, ...others } = unread;
    const isNumber = read === null ? mayMiss : read !== undefined && (read > 0 || mayBeZero);
    onUnread(isNumber ? others : { ...others, [at]: text });
    if (isNumber) put(at, read);
  };
  const kept = value === null || value === undefined ? '' : String(value / scale);
  return (
    <input
      className={`input input-xs text-right ${width} ${wrong(at) ? 'input-error' : ''}`}
      aria-label={label}
      aria-invalid={wrong(at) !== undefined}
      title={wrong(at) ?? label}
      inputMode="decimal"
      placeholder={mayMiss ? 'none' : ''}
      readOnly={readOnly}
      value={unread[at] ?? typed ?? kept}
      onChange={({ target }) => type(target.value)}
      onBlur={() => setTyped(null)}
    />
  );
}

/** An amount in micros; null where nothing is typed, undefined for what is none. */
function readAmount(typed: string): number | null | undefined {
  const read = readMoneyOrNone(typed);
  return 'words' in read ? undefined : read.value;
}

export function ChoicePart({
  at,
  label,
  choices,
  read = (value) => value,
}: FieldProps & {
  choices: readonly (readonly [value: string, words: string])[];
  /** What is kept of a choice, where it is no text. */
  read?: (value: string) => unknown;
}) {
  const { outlet, put, wrong, readOnly } = useOutletEditing();
  return (
    <select
      className={`plain-field chip cursor-pointer ${wrong(at) ? 'text-error' : ''}`}
      aria-label={label}
      title={wrong(at) ?? label}
      disabled={readOnly}
      value={String(partAt(outlet, at) ?? '')}
      onChange={({ target }) => put(at, read(target.value))}
    >
      {choices.map(([value, words]) => (
        <option key={value} value={value}>
          {words}
        </option>
      ))}
    </select>
  );
}

export function CheckPart({ at, label }: FieldProps) {
  const { outlet, put, readOnly } = useOutletEditing();
  return (
    <label className="flex min-h-6 cursor-pointer items-center gap-1.5">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        disabled={readOnly}
        checked={partAt(outlet, at) === true}
        onChange={({ target }) => put(at, target.checked)}
      />
      {label}
    </label>
  );
}

/** Some of a few names, in their own order. */
export function SetPart<Name extends string>({
  at,
  label,
  names,
}: {
  at: string;
  label: string;
  names: readonly (readonly [Name, string])[];
}) {
  const { outlet, put, wrong, readOnly } = useOutletEditing();
  const chosen = partAt(outlet, at) as Name[];
  return (
    <fieldset
      className={`inline-flex flex-wrap gap-x-3 ${wrong(at) ? 'text-error' : ''}`}
      aria-label={label}
      title={wrong(at)}
    >
      <CheckSet names={names} chosen={chosen} disabled={readOnly} onChange={(next) => put(at, next)} />
    </fieldset>
  );
}

/** A part of the form: its name, its sentences, and what is wrong in it. */
export function Part({
  title,
  places,
  children,
}: {
  title: string;
  places: readonly string[];
  children: ReactNode;
}) {
  const { problems } = useOutletEditing();
  const own = problems.filter(({ at }) => places.some((place) => at === place || at.startsWith(`${place}.`)));
  return (
    <section aria-label={title} className="border-hair border-t py-3">
      <h3 className="mb-1.5 font-semibold">{title}</h3>
      <div className="flex flex-col gap-1.5 text-[13px]">{children}</div>
      {own.length > 0 && (
        <ul role="alert" className="mt-1.5 text-[12.5px] text-error">
          {own.map(({ at, words }) => (
            <li key={`${at}${words}`}>{words}</li>
          ))}
        </ul>
      )}
    </section>
  );
}

export const Line = ({ children }: { children: ReactNode }) => (
  <div className="flex flex-wrap items-center gap-x-1.5 gap-y-1">{children}</div>
);
