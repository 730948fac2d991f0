import {
  chooseReadBackRows,
  listReadBackCampaigns,
  type ReadBack,
  type StagedCampaign,
} from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { call, wordsOf } from '../../data/call.ts';
import { readChanged } from '../../data/changed.ts';
import { question } from '../../data/question.ts';
import { count } from '../../kit/format.ts';

/** With more campaigns than this, some are found by their names. */
const FEW = 12;

/** The campaigns of which rows differ: each is taken or left as a whole, with what of it is taken. */
export function ReadBackCampaigns({ plan, readBack }: { plan: number; readBack: ReadBack }) {
  const params = { plan, readBack: readBack.id };
  const { data } = useQuery(question(listReadBackCampaigns, { params }));
  const [filter, setFilter] = useState('');
  const [busy, setBusy] = useState(false);
  const campaigns = data?.campaigns ?? [];
  if (campaigns.length < 2) return null;
  const wanted = filter.trim().toLowerCase();
  const found = campaigns.filter(({ campaign }) => nameOf(campaign).toLowerCase().includes(wanted));
  /** Without a campaign, every row. */
  const choose = async (chosen: readonly { campaign?: string }[], taken: boolean) => {
    setBusy(true);
    try {
      for (const { campaign } of chosen)
        await call(chooseReadBackRows, { params, body: { campaign, taken } });
      await readChanged(plan);
    } catch (error) {
      toast.error(wordsOf(error));
    }
    setBusy(false);
  };
  const shown = wanted === '' ? [{}] : found;
  return (
    <section aria-label="Campaigns" className="mt-4 text-[13px]">
      <h3 className="flex items-center gap-1 font-semibold">
        Campaigns
        <span className="ml-auto flex gap-1 font-normal">
          <button
            type="button"
            className="btn btn-ghost btn-xs"
            disabled={busy}
            onClick={() => void choose(shown, true)}
          >
            Take {wanted === '' ? 'all' : 'these'}
          </button>
          <button
            type="button"
            className="btn btn-ghost btn-xs"
            disabled={busy}
            onClick={() => void choose(shown, false)}
          >
            Leave {wanted === '' ? 'all' : 'these'}
          </button>
        </span>
      </h3>
      {campaigns.length > FEW && (
        <input
          className="input input-xs my-1 w-full"
          aria-label="Find campaigns"
          placeholder="Find campaigns"
          value={filter}
          onChange={({ target }) => setFilter(target.value)}
        />
      )}
      <ul className="max-h-56 overflow-auto" tabIndex={0} aria-label="Campaigns that differ">
        {found.map((one) => (
          <li key={one.campaign}>
            <span className="flex items-center gap-2 py-0.5">
              <CampaignTick of={one} disabled={busy} onChange={(taken) => void choose([one], taken)} />
              <span className="min-w-0 flex-1 truncate" title={one.campaign}>
                {nameOf(one.campaign)}
              </span>
              <span className="text-faint">
                {one.taken === one.rows ? count(one.rows) : `${count(one.taken)} of ${count(one.rows)}`}
              </span>
            </span>
          </li>
        ))}
      </ul>
      {found.length === 0 && <p className="text-faint">None is called that.</p>}
    </section>
  );
}

const nameOf = (campaign: string): string => campaign || 'the whole account';

type TickProps = { of: StagedCampaign; disabled: boolean; onChange: (taken: boolean) => void };

/** Half ticked where only some of its rows are taken. */
function CampaignTick({ of: { campaign, rows, taken }, disabled, onChange }: TickProps) {
  const tick = useRef<HTMLInputElement>(null);
  const isPart = taken > 0 && taken < rows;
  useEffect(() => {
    if (tick.current) tick.current.indeterminate = isPart;
  }, [isPart]);
  return (
    <input
      ref={tick}
      type="checkbox"
      className="checkbox checkbox-xs"
      aria-label={`Take ${nameOf(campaign)}`}
      checked={taken === rows}
      disabled={disabled}
      onChange={() => onChange(taken < rows)}
    />
  );
}
