import { column } from './column.ts';
import type { NetworkName } from './rows.ts';

/** What a click may cost; empty where a row has no bid of its own. */
export const bid = column({
  value: 'bid',
  words: 'Bid',
  heading: 'Max CPC',
  known: ['bid', 'cpcbid', 'cpc', 'maximumcpc', 'maxbid', 'keywordbid', 'adgroupbid', 'defaultbid'],
  kinds: ['group', 'keyword'],
  merge: 'silent',
  write:
    ({ money }) =>
    (row) =>
      money(row.bid),
  read:
    ({ rules }) =>
    (row, cell) => {
      if (!rules.bids.perNetwork) row.bid = cell.amount();
    },
});

/** A bid for one network, where the outlet takes one for each. The first that is there stands for all. */
const bidOn = <const Value extends string>(value: Value, network: NetworkName, words: string) =>
  column({
    value,
    words,
    kinds: ['group', 'keyword'],
    merge: 'silent',
    write:
      ({ money }) =>
      (row) =>
        money(row.bids?.[network] ?? null),
    read:
      ({ rules }) =>
      (row, cell) => {
        const amount = rules.bids.perNetwork ? cell.amount() : null;
        if (amount === null) return;
        row.bids = { ...row.bids, [network]: amount };
        row.bid ??= amount;
      },
  });
export const bidSearch = bidOn('bid-search', 'search', 'Bid in search');
export const bidPartners = bidOn('bid-partners', 'partners', 'Bid at partners');
export const bidDisplay = bidOn('bid-display', 'display', 'Bid on pages');
