import { changeCampaigns, type changeCampaigns as endpoint } from '@sprig/contracts';
import { labelsOf } from '@sprig/core/build';
import { useCallback, useEffect, useState } from 'react';
import type { z } from 'zod';
import { call } from '../../../data/call.ts';
import { refusalOf } from '../../../data/run-change.ts';
import type { ShownCampaign } from './shown-campaigns.ts';

type Body = z.input<(typeof endpoint)['body']>;
type Values = Record<string, unknown>;
export type CampaignChange = Pick<Body, 'values' | 'settings'>;

/** What was just changed and is kept, but not built yet. */
type Pending = ReadonlyMap<string, Partial<ShownCampaign>>;
const NONE: Pending = new Map();

const FIELDS = {
  name: 'name',
  budget: 'dailyBudget',
  bid: 'defaultBid',
  status: 'status',
  path: 'path',
  matching: 'matching',
} as const;

/** Changes campaigns, and shows them as they will be until a build has caught up. */
export function useCampaignChange(plan: number, builtRevision: number, revision: number) {
  const [pending, setPending] = useState<Pending>(NONE);
  useEffect(() => {
    if (builtRevision >= revision) setPending(NONE);
  }, [builtRevision, revision]);
  const change = useCallback(
    async (asked: CampaignChange): Promise<string | null> => {
      const words = await refusalOf(plan, () =>
        call(changeCampaigns, { params: { plan }, body: { ...asked, dry: false } }),
      );
      if (words === null) setPending((old) => withChange(old, asked));
      return words;
    },
    [plan],
  );
  return { change, pending };
}

function withChange(old: Pending, { values, settings }: CampaignChange): Pending {
  const next = new Map(old);
  const put = (key: string, own: Partial<ShownCampaign>) => next.set(key, { ...next.get(key), ...own });
  for (const [key, field, value] of values) {
    if (field in FIELDS) put(key, { [FIELDS[field as keyof typeof FIELDS]]: value });
    if (field === 'labels') put(key, { labels: labelsOf(String(value)) });
  }
  for (const one of settings)
    for (const key of one.campaigns)
      if ('values' in one) put(key, { is: { ...next.get(key)?.is, ...given(one.values) } as never });
  return next;
}

const given = (values: Values) =>
  Object.fromEntries(Object.entries(values).filter(([, value]) => value !== undefined));

/** A campaign with what was changed of it on top. */
export function withPending(campaign: ShownCampaign, pending: Pending): ShownCampaign {
  const own = pending.get(campaign.key);
  return own ? { ...campaign, ...own, is: { ...campaign.is, ...own.is } } : campaign;
}
