import type { ClientPage, ClientPart, ForecastView } from '@sprig/contracts';
import { Part } from '../../kit/Part.tsx';
import { CampaignSheet } from './CampaignSheet.tsx';
import { Excluded } from './Excluded.tsx';
import { type ClientPlan, Overview } from './Overview.tsx';

type Props = {
  plan: ClientPlan;
  counts: { cut: number; blocked: number };
  page: ClientPage;
  /** null: it is not shown, or not there yet. */
  forecast: ForecastView | null;
  isBehind: boolean;
  has: (part: ClientPart) => boolean;
};

/** The page itself, as it is read and printed. */
export const ClientSheet = ({ plan, counts, page, forecast, isBehind, has }: Props) => (
  <main className="min-h-0 flex-1 overflow-auto print:overflow-visible" tabIndex={0}>
    {/* Paper is light, whatever the screen is. */}
    <article
      data-theme="sprig"
      className="mx-auto my-6 max-w-[820px] bg-base-100 px-12 py-10 text-base-content shadow-sm print:m-0 print:max-w-none print:p-0 print:shadow-none max-[700px]:px-5"
    >
      <Part name="The overview">
        <Overview plan={plan} page={page} forecast={forecast} />
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
            currency={plan.currency}
            withKeywords={has('keywords')}
            withBids={has('bids')}
            withAds={has('ads')}
          />
        </Part>
      ))}
      {has('out') && <Excluded counts={counts} page={page} />}
    </article>
  </main>
);
