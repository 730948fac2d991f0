import { lineWords } from '@sprig/contracts';
import type { TokenValues } from '@sprig/core/text';
import {
  type AdField,
  type AdPattern,
  descriptions,
  type FieldCount,
  type FitCounts,
  type FittedFields,
  type FormLimits,
  headlines,
  limitsOf,
  paths,
} from '@sprig/core/write';
import { Plus } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { toast } from 'sonner';
import type { Document } from '../../data/document.ts';
import { Help } from '../../frame/Help.tsx';
import { count } from '../../kit/format.ts';
import { useTypedOver } from '../../kit/use-entry.ts';
import { fieldName, styleChoices } from './field-names.ts';
import { Gauge } from './Gauge.tsx';
import { roomWords, useMeasure } from './measure.tsx';
import type { Patterns } from './use-writing.ts';

const LineEditor = lazy(() => import('./LineEditor.tsx'));

type Props = {
  id: number;
  /** As it is kept; what is typed stays with its field. */
  body: AdPattern;
  form: FormLimits;
  document: Document<Patterns>;
  counts: FitCounts | undefined;
  /** The ad of the group in view. */
  fields: FittedFields | undefined;
  values: TokenValues;
  /** The site's name in words. */
  siteName: string;
  focused: string | null;
};

/** The pattern: each field's lines, first the most wanted; beside each line how many groups use it. */
export function PatternLines(props: Props) {
  const { body, form } = props;
  const limits = limitsOf(form);
  const columns = [headlines, descriptions, paths].map((names) => {
    const allowed = names.filter((name) => limits[name]);
    const used = allowed.filter((name) => body.fields[name].lines.length > 0);
    const last = allowed.indexOf(used.at(-1) as AdField);
    const least = allowed.filter((name) => limits[name]?.required).length;
    return { allowed, shown: body.form === 'plain' ? allowed.length : Math.max(last + 1, least, 1) };
  });
  return (
    <section
      aria-label="Pattern"
      className="grid max-h-[40%] shrink-0 grid-cols-[4fr_5fr_3fr] gap-x-6 overflow-auto border-hair border-b px-4 pt-1.5 pb-3"
    >
      {columns.map((column, at) => (
        <FieldColumn key={`${props.id}:${column.allowed[0]}`} {...props} {...column} hasHelp={at === 2} />
      ))}
    </section>
  );
}

function FieldColumn({
  allowed,
  shown,
  hasHelp,
  ...props
}: Props & { allowed: readonly AdField[]; shown: number; hasHelp: boolean }) {
  const [more, setMore] = useState(0);
  const names = allowed.slice(0, Math.min(allowed.length, shown + more));
  const isSet = props.body.form === 'assembled';
  return (
    <div className="flex flex-col gap-2.5">
      {names.map((field) => (
        <Field key={field} {...props} field={field} />
      ))}
      {isSet && names.length < allowed.length && !hasHelp && (
        <button
          type="button"
          className="flex items-center gap-1 self-start text-primary hover:underline"
          onClick={() => setMore(more + 1)}
        >
          <Plus size={13} aria-hidden /> {fieldName(allowed[names.length] as string)}
        </button>
      )}
      {hasHelp && (
        <Help>
          The first line that fits is used. Type <b>@</b> for tokens: <b>@keyword</b> is the group’s keyword;{' '}
          <b>@keyword(lower)</b> in a case of its own, <b>@place(or your town)</b> with what stands in for it.
        </Help>
      )}
    </div>
  );
}

function Field({
  id,
  body,
  form,
  document,
  counts,
  fields,
  values,
  siteName,
  focused,
  field,
}: Props & { field: AdField }) {
  const { draft, undraft, edit } = document;
  const [adding, setAdding] = useState(false);
  const limit = limitsOf(form)[field];
  const room = roomWords(useMeasure(), body.form, field);
  if (!limit) return null;
  const { lines, style, kept } = body.fields[field];
  const at = `patterns.${id}.fields.${field}`;
  const own: FieldCount | undefined = counts?.fields[field];
  const keep = async (place: number, typed: string): Promise<string | null> => {
    const next = lines.slice();
    if (typed.trim() === '') next.splice(place, 1);
    else next[place] = typed.trim();
    const words = await edit(`${at}.lines`, next);
    if (words === null && place === lines.length) setAdding(false);
    return words;
  };
  const shown = adding || lines.length === 0 ? [...lines, ''] : lines;
  const fit = fields?.[field];
  const set = async (name: string, value: unknown) => {
    const words = await edit(`${at}.${name}`, value);
    if (words) toast.error(words);
  };
  const firstWords = limit.required ? 'Needed' : 'Left empty';
  return (
    <fieldset>
      <legend className="flex w-full items-center gap-2">
        <span className="whitespace-nowrap font-semibold">{fieldName(field)}</span>
        <Gauge fit={fit} limit={limit.limit} />
        {room && (
          <span className="min-w-0 truncate text-[12px] text-faint" title={`Room: ${room.all}`}>
            {room.least}
          </span>
        )}
        <span className="ml-auto flex shrink-0 items-center gap-1">
          {own && own.unfilled > 0 && (
            <span className="whitespace-nowrap text-[12px] text-error">{count(own.unfilled)} unfilled</span>
          )}
          {own && own.unfilled === 0 && own.short > 0 && (
            <span
              className="whitespace-nowrap text-[12px] text-warning"
              title="Filled with less than half of the room"
            >
              {count(own.short)} short
            </span>
          )}
          {body.form === 'assembled' && !field.startsWith('path') && (
            <select
              className="plain-field cursor-pointer rounded text-[12px] text-faint hover:bg-base-200"
              aria-label={`Place of ${fieldName(field)}`}
              title="Kept in place n: it always stands n-th"
              value={kept}
              onChange={({ target }) => void set('kept', Number(target.value))}
            >
              <option value={0}>any place</option>
              {[1, 2, 3]
                .slice(0, form[field.startsWith('h') ? 'headlines' : 'descriptions'].shown)
                .map((n) => (
                  <option key={n} value={n}>
                    always {n}.
                  </option>
                ))}
            </select>
          )}
          <select
            className="plain-field cursor-pointer rounded text-[12px] text-faint hover:bg-base-200"
            aria-label={`Case of ${fieldName(field)}`}
            value={style}
            onChange={({ target }) => void set('style', target.value)}
          >
            {styleChoices.map((one) => (
              <option key={one.value} value={one.value}>
                {one.words}
              </option>
            ))}
          </select>
          <button
            type="button"
            className="btn btn-ghost btn-square btn-xs"
            title="Add a line to fall back on"
            aria-label={`Add a line to ${fieldName(field)}`}
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
            label={`${fieldName(field)}, line ${place + 1}`}
            kept={line}
            used={own?.byLine[place]}
            inUse={fit?.status === 'fits' && fit.line === place}
            placeholder={place === 0 ? firstWords : 'Used where the lines above are too long'}
            values={values}
            siteName={siteName}
            autoFocus={
              (adding && place === shown.length - 1) || (focused === field && place === shown.length - 1)
            }
            onType={(typed) => {
              const next = lines.slice();
              if (typed.trim() !== '') next[place] = typed;
              draft(`${at}.lines`, next);
            }}
            onLeave={() => {
              undraft();
              // A line above is left when another one is added.
              if (place === lines.length) setAdding(false);
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
  values: TokenValues;
  siteName: string;
  autoFocus: boolean;
  onType: (typed: string) => void;
  onLeave: () => void;
  onKeep: (typed: string) => Promise<string | null>;
};

/** One line of a field: what is typed shows its effect at once, and is kept when it is left. */
function LineField({
  label,
  kept,
  used,
  inUse,
  placeholder,
  values,
  siteName,
  autoFocus,
  onType,
  onLeave,
  onKeep,
}: LineProps) {
  const [typed, setTyped] = useTypedOver(kept);
  const [words, setWords] = useState<string | null>(null);
  const keep = async () => {
    if (typed.trim() === kept) {
      setWords(null);
      return onLeave();
    }
    const problem = lineWords(typed);
    setWords(problem ?? (await onKeep(typed)));
  };
  const border = inUse ? 'border-primary' : 'border-hair';
  return (
    <li>
      <span
        className={`flex items-start gap-1.5 rounded-md border px-2 ${words ? 'border-error' : border} bg-base-100 focus-within:ring-1 focus-within:ring-primary`}
      >
        <Suspense fallback={<span className="flex-1 py-1">{typed}</span>}>
          <LineEditor
            label={label}
            text={typed}
            placeholder={placeholder}
            isWrong={words !== null}
            values={values}
            siteName={siteName}
            autoFocus={autoFocus}
            onType={(next) => {
              if (next === typed) return;
              setTyped(next);
              const problem = lineWords(next);
              setWords(problem);
              if (problem === null) onType(next);
            }}
            onKeep={() => void keep()}
            onRevert={() => {
              setTyped(kept);
              setWords(null);
              onLeave();
            }}
          />
        </Suspense>
        {used !== undefined && (
          <span className="shrink-0 py-1 text-[12px] text-faint" title="Ad groups that use this line">
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
