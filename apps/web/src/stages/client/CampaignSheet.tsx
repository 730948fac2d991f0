import type { ClientPage } from '@sprig/contracts';
import { descriptions, headlines, paths } from '@sprig/core/write';
import { count, counted, money } from '../../kit/format.ts';
import { matchWords } from '../../kit/match-words.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';

type Campaign = ClientPage['campaigns'][number];
type Group = Campaign['shown'][number];
type Props = {
  campaign: Campaign;
  currency: string;
  withKeywords: boolean;
  withBids: boolean;
  withAds: boolean;
};

/** One campaign with its most searched ad groups: their keywords, bids, and ads as they read. */
export function CampaignSheet({ campaign, currency, withKeywords, withBids, withAds }: Props) {
  const { name, dailyBudget, status, groups, keywords, searches, shown } = campaign;
  const others = groups - shown.length;
  return (
    <section aria-label={`Campaign ${name}`} className="mt-7">
      <h2 className="break-after-avoid font-semibold text-[18px]">{name}</h2>
      <p className="break-after-avoid text-faint">
        {counted(groups, 'ad group')}, {counted(keywords, 'keyword')}, up to {count(searches)} searches a
        month, {dailyBudget > 0 ? `${money(dailyBudget, currency)} a day` : 'no daily budget yet'}
        {status === 'paused' ? ', paused' : ''}.
      </p>
      {shown.map((group) => (
        <GroupSheet
          key={group.key}
          group={group}
          currency={currency}
          withKeywords={withKeywords}
          withBids={withBids}
          withAds={withAds}
        />
      ))}
      {others > 0 && (
        <p className="mt-3 text-faint">
          And {counted(others, 'ad group')} more in this campaign, {others === 1 ? 'which is' : 'which are'}{' '}
          searched less.
        </p>
      )}
    </section>
  );
}

function GroupSheet({
  group,
  currency,
  withKeywords,
  withBids,
  withAds,
}: Omit<Props, 'campaign'> & { group: Group }) {
  const { name, searches, keywords, shown, ads, status } = group;
  const more = keywords - shown.length;
  return (
    <section className="mt-4 break-inside-avoid border-base-200 border-t pt-3">
      <h3 className="font-semibold">
        {name}{' '}
        <span className="font-normal text-faint">
          {counted(keywords, 'keyword')}
          {searches === null ? '' : `, ${count(searches)} searches a month`}
          {status === 'paused' ? ', paused' : ''}
        </span>
      </h3>
      <div
        className={`mt-1.5 grid gap-6 ${withKeywords && withAds ? 'grid-cols-2 max-[700px]:grid-cols-1' : ''}`}
      >
        {withKeywords && (
          <table className="w-full self-start text-[12.5px]">
            <thead className="text-faint">
              <tr>
                <th className="text-left font-normal">Keyword</th>
                <th className="pl-2 text-left font-normal">Match</th>
                <th className="pl-2 text-right font-normal">Searches</th>
                {withBids && <th className="pl-2 text-right font-normal">Bid</th>}
              </tr>
            </thead>
            <tbody>
              {shown.map(({ text, types, searches: own, bidFrom, bidTo }) => (
                <tr key={text} className="align-top">
                  <td className="py-px">{text}</td>
                  <td className="whitespace-nowrap py-px pl-2">
                    {types.map((type) => (
                      <span key={type} title={matchWords[type]} className="mr-1.5">
                        <ReachBars type={type} />
                      </span>
                    ))}
                  </td>
                  <td className="py-px pl-2 text-right">{count(own)}</td>
                  {withBids && (
                    <td className="whitespace-nowrap py-px pl-2 text-right">
                      {money(bidFrom, currency)}
                      {bidTo === bidFrom ? '' : ` to ${money(bidTo, currency)}`}
                    </td>
                  )}
                </tr>
              ))}
              {more > 0 && (
                <tr>
                  <td colSpan={withBids ? 4 : 3} className="text-faint">
                    and {counted(more, 'keyword')} more
                  </td>
                </tr>
              )}
            </tbody>
          </table>
        )}
        {withAds && (
          <div className="flex flex-col gap-2">
            {ads.map((ad) => (
              <AdAsRead key={ad.form} ad={ad} />
            ))}
            {ads.length === 0 && (
              <p className="text-[12.5px] text-faint">No ad is ready for this ad group yet.</p>
            )}
          </div>
        )}
      </div>
    </section>
  );
}

/** An ad's texts as a searcher reads them; of an assembled one those that may be shown together. */
function AdAsRead({ ad: { texts, finalUrl, form } }: { ad: Group['ads'][number] }) {
  const said = (fields: readonly string[]) => fields.flatMap((field) => texts[field] || []);
  const host = finalUrl.replace(/^https?:\/\//i, '').replace(/\/.*$/, '');
  return (
    <div className="rounded-md border border-hair px-3 py-2 text-[13px] leading-5">
      <p className="truncate text-[12px] text-faint">{[host, ...said(paths)].join(' / ')}</p>
      <p className="font-semibold text-[14px]">{said(headlines).slice(0, 3).join(' – ')}</p>
      <p>{said(descriptions).slice(0, 2).join(' ')}</p>
      {form !== 'plain' && (
        <p className="mt-1 text-[11.5px] text-faint">
          Put together anew for each search, of {counted(said(headlines).length, 'headline')} and{' '}
          {counted(said(descriptions).length, 'description')}.
        </p>
      )}
    </div>
  );
}
