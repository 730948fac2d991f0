import { readClientPage } from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { ArrowLeft, Printer } from 'lucide-react';
import { useEffect } from 'react';
import { Link, useSearchParams } from 'react-router';
import { wordsOf } from '../../data/call.ts';
import { usePlanId, usePlanState } from '../../data/plan.ts';
import { question } from '../../data/question.ts';
import { LostPage } from '../../frame/LostPage.tsx';
import { usePlanEvents } from '../../frame/use-plan-events.ts';
import { withParams } from '../../kit/address.ts';
import { ChoiceChip } from '../../kit/chips.tsx';
import { date } from '../../kit/format.ts';
import { Part } from '../../kit/Part.tsx';
import { CampaignSheet } from './CampaignSheet.tsx';
import { Excluded } from './Excluded.tsx';
import { Overview } from './Overview.tsx';

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
] as const;
type PartName = (typeof parts)[number][0];

/** The plan as whoever pays for it reads it: on the screen, on paper, or saved as a PDF by the browser's own print. */
export function ClientPage() {
  const id = usePlanId();
  const { data: plan, error } = usePlanState(id);
  usePlanEvents(id);
  const [params, setParams] = useSearchParams();
  const groups = sizeOf(params.get('groups'));
  const keywords = sizeOf(params.get('keywords'));
  const left = new Set((params.get('without') ?? '').split(',').filter((name) => name !== ''));
  const has = (name: PartName) => !left.has(name);
  const { data: page } = useQuery({
    ...question(readClientPage, { params: { plan: id }, query: { groups, keywords } }),
    placeholderData: keepPreviousData,
  });
  useEffect(() => {
    // What a saved PDF is called.
    if (plan) document.title = `${plan.brief.name} – plan of ${date(new Date().toISOString())}`;
  }, [plan]);
  if (error && !plan) return <LostPage words={wordsOf(error)} />;
  if (!plan || !page)
    return <div className="grid h-full place-items-center text-faint">Putting the page together …</div>;
  const set = (change: Record<string, string>) =>
    setParams((old) => withParams(old, change), { replace: true });
  const turn = (name: PartName) => {
    const next = has(name) ? [...left, name] : [...left].filter((one) => one !== name);
    set({ without: next.join(',') });
  };
  const isBehind = plan.builtRevision < plan.revision;
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
        <button type="button" className="btn btn-primary btn-sm ml-auto" onClick={() => window.print()}>
          <Printer size={15} aria-hidden /> Print or save as PDF
        </button>
      </header>
      <main className="min-h-0 flex-1 overflow-auto print:overflow-visible" tabIndex={0}>
        {/* Paper is light, whatever the screen is. */}
        <article
          data-theme="sprig"
          className="mx-auto my-6 max-w-[820px] bg-base-100 px-12 py-10 text-base-content shadow-sm print:m-0 print:max-w-none print:p-0 print:shadow-none max-[700px]:px-5"
        >
          <Part name="The overview">
            <Overview plan={plan} page={page} withForecast={has('forecast')} />
          </Part>
          {isBehind && (
            <p role="status" className="mt-3 text-warning print:hidden">
              The plan is being built: this page follows in a moment.
            </p>
          )}
          {page.campaigns.map((campaign) => (
            <Part key={campaign.key} name={`The campaign ${campaign.name}`} of={page}>
              <CampaignSheet
                campaign={campaign}
                currency={plan.brief.currency}
                withKeywords={has('keywords')}
                withBids={has('bids')}
                withAds={has('ads')}
              />
            </Part>
          ))}
          {has('out') && <Excluded plan={plan} page={page} />}
        </article>
      </main>
    </div>
  );
}
