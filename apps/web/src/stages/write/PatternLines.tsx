import { plainOutlet } from '@sprig/core/ship';
import { type CaseStyle, parseLine } from '@sprig/core/text';
import type { AdField, AdPattern, FieldCount, FitCounts, FittedAd } from '@sprig/core/write';
import { Plus } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Document } from '../../api/document.ts';
import { count } from '../../kit/format.ts';
import { Help } from '../../kit/marks.tsx';
import { fieldNames } from './field-names.ts';
import { Gauge } from './Gauge.tsx';

const columns: AdField[][] = [
  ['headline1', 'headline2', 'headline3'],
  ['description1', 'description2'],
  ['path1', 'path2'],
];

const styles: { value: CaseStyle; words: string }[] = [
  { value: 'as-is', words: 'as typed' },
  { value: 'lower', words: 'lower' },
  { value: 'sentence', words: 'Sentence' },
  { value: 'title', words: 'Title' },
];

type Props = {
  pattern: Document<AdPattern>;
  counts: FitCounts | null | undefined;
  ad: FittedAd | undefined;
  focused: AdField | null;
};

/** The pattern: each field's lines, first the most wanted; beside each line how many groups use it. */
export function PatternLines({ pattern, counts, ad, focused }: Props) {
  if (!pattern.kept) return null;
  return (
    <section
      aria-label="Pattern"
      className="grid max-h-[46%] shrink-0 grid-cols-[4fr_5fr_3.4fr] gap-x-6 overflow-auto border-hair border-b px-4 py-3"
    >
      {columns.map((fields, column) => (
        <div key={fields[0]} className="flex flex-col gap-3">
          {fields.map((field) => (
            <Field
              key={field}
              field={field}
              pattern={pattern}
              counts={counts?.fields[field]}
              ad={ad}
              isFocused={focused === field}
            />
          ))}
          {column === 1 && (
            <Help>
              The first line that fits is used. <b>@keyword</b> is the group's keyword, <b>@group</b> its
              name, <b>@site</b> the site.
            </Help>
          )}
          {column === 2 && <FinalUrl pattern={pattern} bad={counts?.badAddresses ?? 0} />}
        </div>
      ))}
    </section>
  );
}

type FieldProps = {
  field: AdField;
  pattern: Document<AdPattern>;
  counts: FieldCount | undefined;
  ad: FittedAd | undefined;
  isFocused: boolean;
};

function Field({ field, pattern, counts, ad, isFocused }: FieldProps) {
  const { kept: value, draft, undraft, edit } = pattern;
  const [adding, setAdding] = useState(false);
  const { limit, required } = plainOutlet.ad[field];
  if (!value) return null;
  const { lines, style } = value.fields[field];
  const at = `fields.${field}.lines`;
  const keep = async (place: number, typed: string): Promise<string | null> => {
    const next = lines.slice();
    if (typed.trim() === '') next.splice(place, 1);
    else next[place] = typed;
    const words = await edit(at, next);
    if (words === null) setAdding(false);
    return words;
  };
  const shown = adding || lines.length === 0 ? [...lines, ''] : lines;
  const fit = ad?.fields[field];
  return (
    <fieldset>
      <legend className="flex w-full items-center gap-2">
        <span className="font-semibold">{fieldNames[field]}</span>
        <Gauge fit={fit} limit={limit} />
        <span className="ml-auto flex items-center gap-1">
          {counts && counts.unfilled > 0 && (
            <span className="text-[12px] text-error">{count(counts.unfilled)} unfilled</span>
          )}
          <select
            className="plain-field cursor-pointer rounded text-[12px] text-faint hover:bg-base-200"
            aria-label={`Case of ${fieldNames[field]}`}
            value={style}
            onChange={async (event) => {
              const words = await edit(`fields.${field}.style`, event.target.value);
              if (words) toast.error(words);
            }}
          >
            {styles.map((one) => (
              <option key={one.value} value={one.value}>
                {one.words}
              </option>
            ))}
          </select>
          <button
            type="button"
            className="btn btn-ghost btn-square btn-xs"
            title="Add a line to fall back on"
            aria-label={`Add a line to ${fieldNames[field]}`}
            onClick={() => setAdding(true)}
          >
            <Plus size={13} />
          </button>
        </span>
      </legend>
      <ol className="mt-0.5 flex flex-col gap-1">
        {shown.map((line, place) => (
          <LineField
            // biome-ignore lint/suspicious/noArrayIndexKey: a line is its place
            key={place}
            label={`${fieldNames[field]}, line ${place + 1}`}
            kept={line}
            used={counts?.byLine[place]}
            inUse={fit?.status === 'fits' && fit.line === place}
            placeholder={
              place === 0 ? (required ? 'Needed' : 'Left empty') : 'Used where the lines above are too long'
            }
            autoFocus={(adding && place === shown.length - 1) || (isFocused && place === shown.length - 1)}
            onType={(typed) => {
              const next = lines.slice();
              if (typed.trim() !== '') next[place] = typed;
              draft(at, next);
            }}
            onLeave={() => {
              undraft();
              setAdding(false);
            }}
            onKeep={(typed) => keep(place, typed)}
          />
        ))}
      </ol>
    </fieldset>
  );
}

type LineProps = {
  label: string;
  kept: string;
  used: number | undefined;
  inUse: boolean;
  placeholder: string;
  autoFocus: boolean;
  onType: (typed: string) => void;
  onLeave: () => void;
  onKeep: (typed: string) => Promise<string | null>;
};

const problemOf = (typed: string): string | null => {
  const read = parseLine(typed);
  return 'problem' in read
    ? `${read.problem.token} is no token. There are @keyword, @group and @site.`
    : null;
};

function LineField({ label, kept, used, inUse, placeholder, autoFocus, onType, onLeave, onKeep }: LineProps) {
  const [typed, setTyped] = useState(kept);
  const [words, setWords] = useState<string | null>(null);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => setTyped(kept), [kept]);
  useEffect(() => {
    if (autoFocus) field.current?.focus();
  }, [autoFocus]);
  const keep = async () => {
    if (typed === kept) {
      setWords(null);
      return onLeave();
    }
    const problem = problemOf(typed);
    setWords(problem ?? (await onKeep(typed)));
  };
  return (
    <li>
      <span
        className={`flex items-center gap-1.5 rounded-md border px-2 ${words ? 'border-error' : inUse ? 'border-primary' : 'border-hair'} bg-base-100 focus-within:ring-1 focus-within:ring-primary`}
      >
        <input
          ref={field}
          aria-label={label}
          aria-invalid={words !== null}
          className="plain-field h-[26px] min-w-0 flex-1"
          placeholder={placeholder}
          value={typed}
          onChange={(event) => {
            setTyped(event.target.value);
            setWords(problemOf(event.target.value));
            if (!problemOf(event.target.value)) onType(event.target.value);
          }}
          onBlur={() => void keep()}
          onKeyDown={(event) => {
            if (event.key === 'Enter') void keep();
            if (event.key === 'Escape') {
              setTyped(kept);
              setWords(null);
              onLeave();
            }
          }}
        />
        {used !== undefined && (
          <span className="shrink-0 text-[12px] text-faint" title="Ad groups that use this line">
            {count(used)}
          </span>
        )}
      </span>
      {words && (
        <span role="alert" className="text-[12px] text-error">
          {words}
        </span>
      )}
    </li>
  );
}

function FinalUrl({ pattern, bad }: { pattern: Document<AdPattern>; bad: number }) {
  const { kept: value, draft, undraft, edit } = pattern;
  if (!value) return null;
  return (
    <fieldset>
      <legend className="flex w-full items-center gap-2">
        <span className="font-semibold">Final URL</span>
        {bad > 0 && <span className="ml-auto text-[12px] text-error">{count(bad)} without an address</span>}
      </legend>
      <ol className="mt-0.5">
        <LineField
          label="Final URL"
          kept={value.finalUrl}
          used={undefined}
          inUse={false}
          placeholder="@site/@keyword"
          autoFocus={false}
          onType={(typed) => draft('finalUrl', typed)}
          onLeave={undraft}
          onKeep={(typed) => edit('finalUrl', typed)}
        />
      </ol>
    </fieldset>
  );
}
