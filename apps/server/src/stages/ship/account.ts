import { eachKind, type RowKind, rowKinds } from '@sprig/core/outlets';
import type { PlanCaller } from '../../platform/caller.ts';
import { accountRows } from './hand-in-job.ts';
import { daysRun } from './stand-in-days.ts';

const MOST_INSIDE = 500;
/** What an account is looked at by: everything but where the row is. */
const HIDDEN = new Set(['campaign', 'group', 'row-kind']);

/** The account of a simulated engine: its campaigns, and what is in one of them. */
export async function viewAccount(caller: PlanCaller, outlet: string, campaign: string | undefined) {
  const counts = eachKind(() => 0);
  const campaigns = new Map<
    string,
    { name: string; state: string; budget: string; groups: number; keywords: number; ads: number }
  >();
  const inside: { kind: RowKind; group: string; cells: string[] }[] = [];
  const at = (name: string) => {
    const there = campaigns.get(name) ?? { name, state: '', budget: '', groups: 0, keywords: 0, ads: 0 };
    campaigns.set(name, there);
    return there;
  };
  for await (const { kind, said } of accountRows(caller, outlet)) {
    const { campaign: of = '', group = '' } = said;
    counts[kind]++;
    if (kind === 'campaign') {
      const own = at(of);
      own.state = said.status ?? '';
      own.budget = said['daily-budget'] ?? '';
    } else if (kind === 'group') at(of).groups++;
    else if (kind === 'keyword') at(of).keywords++;
    else if (kind === 'ad') at(of).ads++;
    if (campaign !== undefined && of === campaign && kind !== 'campaign' && inside.length < MOST_INSIDE)
      inside.push({
        kind,
        group,
        cells: Object.entries(said).flatMap(([value, text]) => (HIDDEN.has(value) ? [] : [text])),
      });
  }
  inside.sort((a, b) =>
    a.group < b.group ? -1 : a.group > b.group ? 1 : rowKinds.indexOf(a.kind) - rowKinds.indexOf(b.kind),
  );
  return { rows: counts, campaigns: [...campaigns.values()], inside, ran: await daysRun(caller, outlet) };
}
