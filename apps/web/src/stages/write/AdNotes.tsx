import type { AdWriter, WrittenAd } from '@sprig/core/ads';
import type { AdChecks } from '@sprig/core/findings';
import type { TokenValues } from '@sprig/core/text';
import {
  type AdField,
  type AdPattern,
  adFields,
  alikeHeadlines,
  compileLines,
  type EditorialWords,
  fitField,
  limitsOf,
  ordersOf,
  partOf,
  type TextRules,
  textOf,
  thriceRead,
} from '@sprig/core/write';
import { toast } from 'sonner';
import { count, counted } from '../../kit/format.ts';
import type { WriteGroup } from '../../pool/pattern-fits.ts';
import { fieldName, problemText } from './field-names.ts';
import { formOf, useMeasure } from './measure.tsx';

type Props = {
  group: WriteGroup;
  ad: WrittenAd;
  body: AdPattern;
  /** The group's keywords, in normal form; null while they are fetched. */
  norms: readonly string[] | null;
  values: TokenValues;
  checks: AdChecks;
  writer: AdWriter;
  words: EditorialWords;
  rules: TextRules;
  onHold: (ad: string, field: AdField | 'finalUrl', text: string) => Promise<string | null>;
  onKeywords: (headline: string) => void;
};

/** What is to be said of the ad in view: what it says of its keywords, what editors would object to, what searchers would see. */
export function AdNotes(props: Props) {
  const { group, ad, norms, checks } = props;
  const problems = checks.problemsOf(ad, group, norms ?? []);
  const relevance = norms ? checks.relevance(ad, norms) : null;
  const hold = async (field: AdField | 'finalUrl', text: string) => {
    const words = await props.onHold(ad.key, field, text);
    if (words) toast.error(words);
  };
  return (
    <aside
      aria-label="On this ad"
      className="flex min-h-0 flex-1 flex-col gap-3 overflow-auto [&>*]:shrink-0 px-4 py-3 text-[13px]"
    >
      <h2 className="truncate font-semibold" title={group.name}>
        {group.name}
      </h2>
      <section aria-label="Relevance">
        <p className="flex items-center gap-2">
          Says of its keywords
          <svg width="60" height="6" viewBox="0 0 60 6" aria-hidden="true">
            <rect width="60" height="6" rx="3" className="fill-base-300" />
            <rect width={60 * (relevance?.score ?? 0)} height="6" rx="3" className="fill-primary" />
          </svg>
          <b>{relevance ? relevance.score.toFixed(2) : '–'}</b>
        </p>
        {relevance && relevance.missing.length > 0 && (
          <p className="text-faint">
            not said:{' '}
            {relevance.missing.slice(0, 8).map(({ word, keywords }, at) => (
              <span key={word}>
                {at > 0 && ', '}
                <span className="text-base-content">{word}</span>
                {norms && norms.length > 1 && ` (${count(keywords)})`}
              </span>
            ))}
            {relevance.missing.length > 8 && ` and ${relevance.missing.length - 8} more`}
          </p>
        )}
      </section>
      {problems.length > 0 && (
        <section aria-label="Objections">
          <h3 className="font-semibold text-warning">{counted(problems.length, 'objection')}</h3>
          <ul className="flex flex-col gap-1">
            {problems.map(({ field, rule, found, fix }) => (
              <li key={`${field}:${rule}`}>
                {problemText(field, rule, found)}
                {fix !== null && (
                  <button
                    type="button"
                    className="btn btn-xs ml-1.5 font-normal"
                    title={`Write “${fix}” by hand`}
                    onClick={() => void hold(field, fix)}
                  >
                    Mend: {fix.length > 26 ? `${fix.slice(0, 26)}…` : fix}
                  </button>
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
      <ShortFields {...props} onWrite={hold} />
      <LiveFields {...props} />
      <AsSet {...props} />
      <button
        type="button"
        className="self-start text-faint hover:underline"
        onClick={() => props.onKeywords(textOf(ad.fields.headline1))}
      >
        Keywords from a headline …
      </button>
    </aside>
  );
}

/** Fields filled with less than half of their room, with longer lines of the pattern that fit. */
function ShortFields({
  ad,
  body,
  values,
  rules,
  onWrite,
}: Props & { onWrite: (field: AdField, text: string) => void }) {
  const form = formOf(useMeasure(), ad.form);
  const limits = form ? limitsOf(form) : {};
  const short = adFields.flatMap((field) => {
    const fit = ad.fields[field];
    const limit = limits[field];
    if (!limit || fit?.status !== 'fits' || partOf(field) === 'paths' || fit.length * 2 >= limit.limit)
      return [];
    const { lines, style } = body.fields[field];
    const longer = lines
      .flatMap((line) => {
        const own = fitField(field, compileLines([line], style), values, { ...limit, required: true }, rules);
        return own.status === 'fits' && own.length > fit.length ? [own] : [];
      })
      .sort((a, b) => b.length - a.length)[0];
    return [{ field, length: fit.length, limit: limit.limit, longer: longer ? textOf(longer) : null }];
  });
  if (short.length === 0) return null;
  return (
    <section aria-label="Short">
      <h3 className="font-semibold text-warning">Room left</h3>
      <ul className="flex flex-col gap-1">
        {short.map(({ field, length, limit, longer }) => (
          <li key={field}>
            {fieldName(field)}: {length} of {limit}
            {longer !== null && (
              <button
                type="button"
                className="btn btn-xs ml-1.5 font-normal"
                onClick={() => onWrite(field, longer)}
              >
                Use “{longer.length > 24 ? `${longer.slice(0, 24)}…` : longer}”
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What happens in the live fields when each keyword of the group is searched for. */
function LiveFields({ ad, group, norms, writer, words }: Props) {
  const isLive = adFields.some((field) => {
    const fit = ad.fields[field];
    return fit?.status === 'fits' && fit.live.length > 0;
  });
  if (!isLive || !norms) return null;
  const tried = writer.insertion(ad, group, norms, words);
  return (
    <section aria-label="Filled in at search time">
      <h3 className="font-semibold text-info">Filled in at search time</h3>
      {norms.length === 1 && (
        <p className="text-warning">
          The group has one keyword: written out, the ad says the same and always fits.
        </p>
      )}
      {tried.map(({ field, fits, fallsBack, objections, banned, worst, shown }) => (
        <div key={field} className="mt-1">
          <p>
            {fieldName(field)}: <b>{count(fits)}</b> of {counted(norms.length, 'keyword')} fit
            {fallsBack > 0 && (
              <>
                , <b>{count(fallsBack)}</b> fall back on “{shown}”
              </>
            )}
            {objections > 0 && (
              <span className="text-warning">, {count(objections)} would be objected to</span>
            )}
            {banned > 0 && <span className="text-error">, {count(banned)} name a rival</span>}
          </p>
          {worst.length > 0 && norms.length > 1 && (
            <details>
              <summary className="cursor-pointer text-faint">those that read worst</summary>
              <ol className="ml-3 list-decimal">
                {worst.map(({ keyword, text, problems }) => (
                  <li key={keyword}>
                    {text}
                    {problems.length > 0 && <span className="text-warning"> ({problems.join(', ')})</span>}
                  </li>
                ))}
              </ol>
            </details>
          )}
        </div>
      ))}
    </section>
  );
}

/** Of an assembled ad: in how many ways it may be shown, and what would be said twice. */
function AsSet({ ad, checks }: Props) {
  const form = formOf(useMeasure(), 'assembled');
  if (ad.form !== 'assembled' || !form) return null;
  const alike = alikeHeadlines(ad.fields, checks.reader);
  const thrice = thriceRead(ad.fields, ad.kept, form, checks.reader);
  return (
    <section aria-label="As a set">
      <p>
        Shown in <b>{count(ordersOf(ad.fields, ad.kept, form))}</b> ways
      </p>
      {alike.map(([first, second]) => (
        <p key={`${first}${second}`} className="text-warning">
          {fieldName(first)} and {fieldName(second)} say the same
        </p>
      ))}
      {thrice.length > 0 && (
        <p className="text-faint">may be read three times at once: {thrice.slice(0, 5).join(', ')}</p>
      )}
    </section>
  );
}
