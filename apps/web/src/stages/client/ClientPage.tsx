import { type ClientPart, clientFactsOf, clientParts, factsOf, may, readClientPage } from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { ArrowLeft, Link as LinkIcon, Printer } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { wordsOf } from '../../data/call.ts';
import { usePlanId, usePlanState } from '../../data/plan.ts';
import { question } from '../../data/question.ts';
import { LostPage } from '../../frame/LostPage.tsx';
import { usePlanEvents } from '../../frame/use-plan-events.ts';
import { withParams } from '../../kit/address.ts';
import { ChoiceChip } from '../../kit/chips.tsx';
import { date } from '../../kit/format.ts';
import { useFacts } from '../../plan/use-facts.ts';
import { useForecast } from '../../plan/use-forecast.ts';
import { ClientLinks } from './ClientLinks.tsx';
import { ClientSheet } from './ClientSheet.tsx';
import type { ClientPlan } from './Overview.tsx';

const sizes = [5, 12, 40, 200] as const;
const choices = (word: string) => sizes.map((value) => ({ value: String(value), words: `${value} ${word}` }));
const sizeOf = (typed: string | null): number => sizes.find((size) => String(size) === typed) ?? 12;

/** What can be left out, by its name in the address. */
const parts = [
  ['keywords', 'keywords'],
  ['bids', 'bids'],
  ['ads', 'ads'],
  ['forecast', 'forecast'],
  ['out', 'what is excluded'],
] as const satisfies readonly (readonly [ClientPart, string])[];

/** The plan as whoever pays for it reads it: on the screen, on paper, or saved as a PDF by the browser's own print. */
export function ClientPage() {
  const id = usePlanId();
  const { data: plan, error } = usePlanState(id);
  usePlanEvents(id);
  const [isSending, setSending] = useState(false);
  const facts = useFacts(id).value;
  const [params, setParams] = useSearchParams();
  const groups = sizeOf(params.get('groups'));
  const keywords = sizeOf(params.get('keywords'));
  const left = new Set((params.get('without') ?? '').split(',').filter((name) => name !== ''));
  const has = (name: ClientPart) => !left.has(name);
  const { data: page } = useQuery({
    ...question(readClientPage, { params: { plan: id }, query: { groups, keywords } }),
    placeholderData: keepPreviousData,
  });
  const hasRows = (plan?.counts.rows ?? 0) > 0;
  const { data: forecast } = useForecast(id, hasRows && has('forecast') ? { all: true } : null);
  useEffect(() => {
    // What a saved PDF is called.
    if (plan) document.title = `${plan.brief.name} – plan of ${date(new Date().toISOString())}`;
  }, [plan]);
  if (error && !plan) return <LostPage words={wordsOf(error)} />;
  if (!plan || !page)
    return <div className="grid h-full place-items-center text-faint">Putting the page together …</div>;
  const set = (change: Record<string, string>) =>
    setParams((old) => withParams(old, change), { replace: true });
  const told: ClientPlan = {
    name: plan.brief.name,
    site: plan.brief.site,
    currency: plan.brief.currency,
    ...clientFactsOf(facts ?? factsOf(null)),
    hasFacts: facts !== undefined,
  };
  const turn = (name: ClientPart) => {
    const next = has(name) ? [...left, name] : [...left].filter((one) => one !== name);
    set({ without: next.join(',') });
  };
  return (
    <div className="flex h-full flex-col bg-base-200 print:block print:h-auto print:bg-white">
      <header className="flex shrink-0 flex-wrap items-center gap-2 border-hair border-b bg-base-100 px-4 py-2 print:hidden">
        <Link to={`/plans/${id}/ship`} className="btn btn-ghost btn-sm font-normal">
          <ArrowLeft size={15} aria-hidden /> {plan.brief.name}
        </Link>
        <span className="flex flex-wrap items-center gap-1.5">
          The most searched{' '}
          <ChoiceChip
            label="How many ad groups"
            value={String(groups)}
            choices={choices('ad groups')}
            onChoose={(value) => set({ groups: value === '12' ? '' : value })}
          />
          of each campaign, with{' '}
          <ChoiceChip
            label="How many keywords"
            value={String(keywords)}
            choices={choices('keywords')}
            onChoose={(value) => set({ keywords: value === '12' ? '' : value })}
          />
          {parts.map(([name, words]) => (
            <button
              key={name}
              type="button"
              aria-pressed={has(name)}
              className={`chip ${has(name) ? '' : 'chip-off'}`}
              onClick={() => turn(name)}
            >
              {words}
            </button>
          ))}
        </span>
        <span className="ml-auto" />
        {may(plan.you, 'build') && (
          <button type="button" className="btn btn-sm" onClick={() => setSending(true)}>
            <LinkIcon size={15} aria-hidden /> Link for a client …
          </button>
        )}
        <button type="button" className="btn btn-primary btn-sm" onClick={() => window.print()}>
          <Printer size={15} aria-hidden /> Print or save as PDF
        </button>
      </header>
      <ClientSheet
        plan={told}
        counts={plan.counts}
        page={page}
        forecast={has('forecast') ? (forecast ?? null) : null}
        isBehind={plan.builtRevision < plan.revision}
        has={has}
      />
      {isSending && (
        <ClientLinks
          plan={id}
          view={{ groups, keywords, without: clientParts.filter((part) => !has(part)) }}
          onClose={() => setSending(false)}
        />
      )}
    </div>
  );
}
