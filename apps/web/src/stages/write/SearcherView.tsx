import { type PlanState, readRivals } from '@sprig/contracts';
import type { WrittenAd } from '@sprig/core/ads';
import { languagePack, lengthOf } from '@sprig/core/text';
import { combinationOf, descriptions, headlines, limitsOf, ordersOf, paths, textOf } from '@sprig/core/write';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { ChevronLeft, ChevronRight, Monitor, Smartphone } from 'lucide-react';
import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { question } from '../../data/question.ts';
import { count } from '../../kit/format.ts';
import type { WriteGroup } from '../../pool/pattern-fits.ts';
import { type MarkedPart, markRepeated } from './mark-repeated.ts';
import { formOf, type Measure, useMeasure } from './measure.tsx';
import { PageText } from './PageText.tsx';

type Props = {
  plan: PlanState;
  group: WriteGroup | null;
  ads: readonly WrittenAd[];
  /** The pattern whose ads come first. */
  chosen: number;
  norms: readonly string[] | null;
  place: number;
  total: number;
  onPlace: (place: number) => void;
};

/** A page of results as somebody who searches would meet it: our ads by turns, those of others around it, and where it leads. */
export function SearcherView({ plan, group, ads, chosen, norms, place, total, onPlace }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const [turn, setTurn] = useState(0);
  const [isPhone, setPhone] = useState(false);
  const groupKey = group?.key;
  // biome-ignore lint/correctness/useExhaustiveDependencies: another group begins anew
  useEffect(() => {
    setTyped(null);
    setTurn(0);
  }, [groupKey, chosen]);
  const search = typed ?? group?.keyword ?? '';
  const asked = useDeferredValue(search);
  const { data: rivals } = useQuery({
    ...question(readRivals, { params: { plan: plan.id }, query: { search: asked } }),
    placeholderData: keepPreviousData,
    enabled: asked !== '',
  });
  const pack = useMemo(() => languagePack(plan.brief.language), [plan.brief.language]);
  const measure = useMeasure();
  const turns = useMemo(() => {
    const isFirst = ({ pattern }: WrittenAd) => pattern === chosen;
    return turnsOf([...ads.filter(isFirst), ...ads.filter((ad) => !isFirst(ad))], search, measure);
  }, [ads, chosen, search, measure]);
  const own = turns[turn % Math.max(1, turns.length)];
  const address = own?.ad.address.final;
  const leads = address?.status === 'address' ? address.href : '';
  const others = rivals?.ads ?? [];
  return (
    <div className="flex min-h-0 flex-1">
      <section aria-label="Results" className="flex min-w-0 flex-1 flex-col bg-base-200/60">
        <div className="flex shrink-0 flex-wrap items-center gap-2 px-4 py-2">
          <button
            type="button"
            className="btn btn-ghost btn-square btn-xs"
            aria-label="Previous ad group"
            disabled={place === 0}
            onClick={() => onPlace(place - 1)}
          >
            <ChevronLeft size={15} />
          </button>
          <span className="max-w-56 truncate">{group?.name ?? '–'}</span>
          <button
            type="button"
            className="btn btn-ghost btn-square btn-xs"
            aria-label="Next ad group"
            disabled={place >= total - 1}
            onClick={() => onPlace(place + 1)}
          >
            <ChevronRight size={15} />
          </button>
          <label className="flex items-center gap-2">
            Somebody searches
            <input
              aria-label="The search"
              className="input input-sm w-64"
              list="searches-of-group"
              value={search}
              onChange={({ target }) => setTyped(target.value)}
            />
            <datalist id="searches-of-group">
              {norms?.slice(0, 200).map((norm) => (
                <option key={norm} value={norm} />
              ))}
            </datalist>
          </label>
          <button
            type="button"
            className="btn btn-sm"
            disabled={turns.length < 2}
            onClick={() => setTurn((turn + 1) % turns.length)}
          >
            Next of {count(turns.length)} {turns.length === 1 ? 'showing' : 'showings'}
          </button>
          <span className="ml-auto flex items-center gap-1">
            <button
              type="button"
              aria-pressed={!isPhone}
              aria-label="At the width of a desk"
              className={`btn btn-ghost btn-square btn-sm ${isPhone ? '' : 'bg-wash'}`}
              onClick={() => setPhone(false)}
            >
              <Monitor size={16} />
            </button>
            <button
              type="button"
              aria-pressed={isPhone}
              aria-label="At the width of a phone"
              className={`btn btn-ghost btn-square btn-sm ${isPhone ? 'bg-wash' : ''}`}
              onClick={() => setPhone(true)}
            >
              <Smartphone size={16} />
            </button>
          </span>
        </div>
        <div className="min-h-0 flex-1 overflow-auto px-4 pb-4" tabIndex={0}>
          <div
            data-width={isPhone ? 'phone' : 'desk'}
            className={`mx-auto flex flex-col gap-3 rounded-md border border-hair bg-base-100 p-4 ${isPhone ? 'w-[340px]' : 'w-full max-w-[680px]'}`}
          >
            {others.slice(0, 1).map((rival) => (
              <Slip
                key={rival.host}
                host={rival.host}
                heads={rival.headlines}
                text={rival.descriptions}
                mark={(text) => markRepeated(text, search, pack)}
                isOurs={false}
                isPhone={isPhone}
              />
            ))}
            {own ? (
              <Slip
                host={[hostOf(plan.brief.site), ...own.paths].join(' / ')}
                heads={own.headlines}
                text={own.descriptions}
                mark={(text) => markRepeated(text, search, pack)}
                isOurs
                isPhone={isPhone}
                note={own.note}
              />
            ) : (
              <p className="text-error">The group has no ad to show.</p>
            )}
            {others.slice(1).map((rival) => (
              <Slip
                key={rival.host}
                host={rival.host}
                heads={rival.headlines}
                text={rival.descriptions}
                mark={(text) => markRepeated(text, search, pack)}
                isOurs={false}
                isPhone={isPhone}
              />
            ))}
            {others.length === 0 && (
              <p className="text-[12.5px] text-faint">Nobody else advertises for this search.</p>
            )}
          </div>
          <p className="mx-auto mt-2 max-w-[680px] text-[12px] text-faint">
            Drawn our own way, from the {rivals?.market ?? 'market'}: what is ruled in green is yours; dotted
            words repeat the search.
          </p>
        </div>
      </section>
      <aside aria-label="Landing page" className="flex w-[330px] shrink-0 flex-col border-hair border-l">
        <header className="border-hair border-b px-4 py-2">
          <h2 className="font-semibold">Where it leads</h2>
          <p className="break-all text-[12px] text-faint">{leads || 'nowhere yet: the plan has no site'}</p>
        </header>
        <PageText plan={plan.id} address={leads} search={search} />
      </aside>
    </div>
  );
}

const hostOf = (site: string) =>
  site
    .trim()
    .replace(/^https?:\/\//i, '')
    .replace(/\/.*$/, '');

type Turn = { ad: WrittenAd; headlines: string[]; descriptions: string[]; paths: string[]; note: string };
/** More ways of showing one assembled ad are not gone through. */
const MOST_WAYS = 6;

/** Every way in which the group's ads are shown, live fields filled in with the search where it fits. */
function turnsOf(ads: readonly WrittenAd[], search: string, measure: Measure): Turn[] {
  return ads.flatMap((ad): Turn[] => {
    const form = formOf(measure, ad.form);
    const limits = form ? limitsOf(form) : {};
    const shown = paths.map((name) => textOf(ad.fields[name])).filter(Boolean);
    const labels = ad.labels.length > 0 ? `${ad.name} (${ad.labels.join(', ')})` : ad.name;
    if (ad.form === 'plain' || !form)
      return [
        {
          ad,
          headlines: headlines
            .map((name) => inserted(ad, name, search, limits[name]?.limit ?? 0))
            .filter(Boolean),
          descriptions: descriptions
            .map((name) => inserted(ad, name, search, limits[name]?.limit ?? 0))
            .filter(Boolean),
          paths: shown,
          note: labels,
        },
      ];
    const ways = Math.min(MOST_WAYS, ordersOf(ad.fields, ad.kept, form));
    return Array.from({ length: ways }, (_, n) => ({
      ad,
      ...combinationOf(ad.fields, ad.kept, form, n),
      paths: shown,
      note: `${labels}, way ${n + 1} of ${count(ordersOf(ad.fields, ad.kept, form))}`,
    }));
  });
}

/** A field as the engine shows it for a search: live stretches become the search where that fits. */
function inserted(
  ad: WrittenAd,
  name: (typeof headlines)[number] | (typeof descriptions)[number],
  search: string,
  limit: number,
): string {
  const fit = ad.fields[name];
  if (fit?.status !== 'fits' || fit.live.length === 0 || search.trim() === '') return textOf(fit);
  let text = '';
  let end = 0;
  for (const { from, to, style } of fit.live) {
    const word =
      style === 'title' ? search.replace(/(^|[\s-])\p{L}/gu, (start) => start.toUpperCase()) : search;
    text += fit.text.slice(end, from) + word;
    end = to;
  }
  text += fit.text.slice(end);
  return lengthOf(text) <= limit ? text : fit.text;
}

type SlipProps = {
  host: string;
  heads: readonly string[];
  text: readonly string[];
  mark: (text: string) => MarkedPart[];
  isOurs: boolean;
  isPhone: boolean;
  note?: string;
};

function Slip({ host, heads, text, mark, isOurs, isPhone, note }: SlipProps) {
  return (
    <article
      aria-label={isOurs ? 'Our ad' : `Ad of ${host}`}
      className={`border-l-4 pl-3 ${isOurs ? 'border-primary' : 'border-base-300'}`}
    >
      <h3 className={`font-semibold leading-6 ${isPhone ? 'text-[15px]' : 'text-[16.5px]'}`}>
        {heads.map((head, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a headline is its place
          <span key={at} className={isPhone ? 'block' : ''}>
            {!isPhone && at > 0 && <span className="px-1.5 text-faint">⁘</span>}
            {mark(head).map(({ text: piece, repeats }, n) =>
              repeats ? (
                // biome-ignore lint/suspicious/noArrayIndexKey: a piece is its place
                <mark key={n} className="repeats">
                  {piece}
                </mark>
              ) : (
                piece
              ),
            )}
          </span>
        ))}
      </h3>
      <p className="text-[13.5px] leading-5">{text.join(' ')}</p>
      <p className="text-[12px] text-faint">
        {host}
        {note && <span className="float-right">{note}</span>}
      </p>
    </article>
  );
}
