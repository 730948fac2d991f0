import { column } from './column.ts';
import { unitsOf } from './units-of.ts';

export const dailyBudget = column({
  value: 'daily-budget',
  words: 'Daily budget',
  known: ['budget', 'campaigndailybudget', 'campaignbudget', 'budgetperday'],
  kinds: ['campaign'],
  merge: 'silent',
  write:
    ({ money }) =>
    (row) =>
      money(row.dailyBudget),
  read: () => (row, cell) => {
    row.dailyBudget = cell.amount();
  },
  loss: {
    rule: 'budget',
    of: (row) => (row.dailyBudget === null ? null : unitsOf(row.dailyBudget)),
    without: (row) => ({ ...row, dailyBudget: null }),
  },
});
