import { viewAccount } from '@sprig/contracts';
import { simulatedOutlets } from '@sprig/core/outlets';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { question } from '../../data/question.ts';
import { Help } from '../../frame/Help.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { count } from '../../kit/format.ts';
import { AccountRun } from './AccountRun.tsx';
import { kindWords } from './ship-words.ts';

type Props = {
  plan: number;
  wanted: string;
  onOutlet: (outlet: string) => void;
};

/** What the simulated engine of an outlet holds for this plan: its campaigns, and what is in one of them. */
export function AccountView({ plan, wanted, onOutlet }: Props) {
  const outlet = simulatedOutlets.find(({ key }) => key === wanted) ?? simulatedOutlets[0];
  const [campaign, setCampaign] = useState<string | null>(null);
  const { data } = useQuery({
    ...question(viewAccount, {
      params: { plan, outlet: outlet?.key ?? '' },
      query: campaign === null ? {} : { campaign },
    }),
    enabled: outlet !== undefined,
    placeholderData: (before) => before,
  });
  return (
    <div className="min-h-0 flex-1 overflow-auto px-5 py-3">
      <div className="mb-2 flex items-center gap-3">
        <h1 className="font-semibold text-[15px]">Account at</h1>
        <select
          className="plain-field chip cursor-pointer"
          aria-label="Outlet whose account is shown"
          value={outlet?.key ?? ''}
          onChange={({ target }) => {
            setCampaign(null);
            onOutlet(target.value);
          }}
        >
          {simulatedOutlets.map((one) => (
            <option key={one.key} value={one.key}>
              {one.name}
            </option>
          ))}
        </select>
        <span className="text-[12.5px] text-faint">
          {data &&
            Object.entries(data.rows)
              .filter(([, rows]) => rows > 0)
              .map(
                ([kind, rows]) =>
                  `${count(rows)} ${kindWords[kind as keyof typeof kindWords]}${rows === 1 ? '' : 's'}`,
              )
              .join(', ')}
        </span>
      </div>
      <Help>
        A simulated engine: it reads the sheets by itself, takes or refuses each row, and keeps what it took.
      </Help>
      {data && data.campaigns.length === 0 && (
        <div className="mt-10 grid place-items-center">
          <Empty title="Nothing was taken yet">Ship to {outlet?.name}, and hand the sheets in.</Empty>
        </div>
      )}
      {data && outlet && data.campaigns.length > 0 && (
        <AccountRun key={outlet.key} plan={plan} outlet={outlet.key} ran={data.ran} />
      )}
      {data && data.campaigns.length > 0 && (
        <div className="mt-2 grid grid-cols-[minmax(420px,1fr)_1.4fr] gap-6">
          <table className="self-start text-[13px]" aria-label="Campaigns of the account">
            <thead className="text-left text-faint">
              <tr>
                {['Campaign', 'State', 'Budget', 'Groups', 'Keywords', 'Ads'].map((heading, at) => (
                  <th key={heading} className={`py-1 pr-3 font-normal ${at > 1 ? 'text-right' : ''}`}>
                    {heading}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {data.campaigns.map((one) => (
                <tr
                  key={one.name}
                  className={`border-base-200 border-t ${one.name === campaign ? 'bg-wash' : ''}`}
                >
                  <td className="py-0.5 pr-3">
                    <button
                      type="button"
                      className="cursor-pointer text-left text-primary underline underline-offset-2"
                      onClick={() => setCampaign(one.name)}
                    >
                      {one.name}
                    </button>
                  </td>
                  <td className="pr-3">{one.state}</td>
                  <td className="pr-3 text-right">{one.budget}</td>
                  <td className="pr-3 text-right">{count(one.groups)}</td>
                  <td className="pr-3 text-right">{count(one.keywords)}</td>
                  <td className="text-right">{count(one.ads)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {campaign !== null && (
            <div className="max-h-[560px] overflow-auto" tabIndex={0}>
              <table className="text-[12.5px]" aria-label={`Rows of ${campaign}`}>
                <tbody>
                  {data.inside.map((row) => (
                    <tr
                      key={`${row.kind}${row.group}${row.cells.join()}`}
                      className="border-base-200 border-t align-top"
                    >
                      <td className="max-w-40 truncate py-0.5 pr-3">{row.group}</td>
                      <td className="pr-3 text-faint">{kindWords[row.kind]}</td>
                      <td>{row.cells.join(' · ')}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
        </div>
      )}
    </div>
  );
}
