import type { BuildSummary } from '@sprig/contracts';
import { counted } from '../../kit/format.ts';

/** What the last rebuild did, as one would say it; empty where it changed nothing to speak of. */
export function summaryWords({ newGroups, goneGroups, bids, held }: BuildSummary): string {
  const parts = [
    newGroups > 0 ? `${counted(newGroups, 'ad group')} new` : '',
    goneGroups > 0 ? `${goneGroups.toLocaleString('en')} gone` : '',
    bids > 0 ? `${counted(bids, 'bid')} changed` : '',
  ].filter((part) => part !== '');
  if (parts.length === 0) return '';
  return [...parts, held > 0 ? `${held.toLocaleString('en')} held` : '']
    .filter((part) => part !== '')
    .join(', ');
}
