import type { Look, LookAnswer, ReportImport } from '@sprig/contracts';
import { countedFigures, type ResultFigure } from '@sprig/core/learn';
import { Help } from '../../frame/Help.tsx';
import { count, counted } from '../../kit/format.ts';
import { Yield, type YieldTerm } from '../../kit/Yield.tsx';
import { daysText, figureAt, figureOrder, figureText, figureWords } from '../../plan/results/result-words.ts';
import { beforeOf, changeOf, changeText, groupingWords } from './look-words.ts';

/** Of all figures these make the sum; the others stand in the table. */
const SHOWN = figureOrder.slice(0, 10);

/** From what was shown to what it brought, of all that is looked at. */
export function LearnYield({ look, found }: { look: Look; found: LookAnswer | undefined }) {
  const currency = found?.account?.currency ?? 'EUR';
  const [one] = groupingWords[look.by];
  const terms: YieldTerm[] = SHOWN.flatMap((name) => {
    const value = figureAt(name, found?.totals ?? []);
    if (value === null) return [];
    const before = found?.totalsBefore ? beforeOf(name, found.totalsBefore, found) : null;
    const change = changeOf(value, before);
    return [
      {
        id: name,
        figure: figureText(name, value, currency),
        words: `${figureWords[name]}${change === null ? '' : ` ${changeText(change)}`}`,
        more: <Term name={name} found={found} value={value} before={before} currency={currency} />,
      },
    ];
  });
  const rest = restWords(found, currency);
  return (
    <Yield
      terms={[{ id: 'rows', figure: counted(found?.order.length ?? 0, one), words: '' }, ...terms]}
      note={rest}
    />
  );
}

/** Where nothing is looked at: what was taken in. */
export function ReportsYield({ imports }: { imports: readonly ReportImport[] | undefined }) {
  const all = imports ?? [];
  const rows = all.reduce((sum, one) => sum + one.rows, 0);
  const accounts = new Set(all.map(({ account }) => account.name)).size;
  return (
    <Yield
      terms={[
        { id: 'accounts', figure: count(accounts), words: accounts === 1 ? 'account' : 'accounts' },
        { id: 'reports', figure: count(all.length), words: all.length === 1 ? 'report' : 'reports' },
        { id: 'rows', figure: count(rows), words: 'rows of results' },
      ]}
    />
  );
}

function restWords(found: LookAnswer | undefined, currency: string): string {
  const { notBrokenDown: rest } = found ?? {};
  if (!rest) return '';
  const parts = countedFigures.flatMap((name, at) => {
    const value = rest[at];
    return value && (name === 'clicks' || name === 'cost')
      ? [name === 'cost' ? figureText(name, value, currency) : `${figureText(name, value, currency)} ${name}`]
      : [];
  });
  return parts.length > 0 ? `Not broken down: ${parts.join(', ')}` : '';
}

type TermProps = {
  name: ResultFigure;
  found: LookAnswer | undefined;
  value: number;
  before: number | null;
  currency: string;
};

function Term({ name, found, value, before, currency }: TermProps) {
  return (
    <Help>
      {figureText(name, value, currency)} {figureWords[name]}
      {found?.range && ` from ${daysText(found.range)}`}
      {before !== null && found?.against
        ? `; ${figureText(name, before, currency)} from ${daysText(found.against)}.`
        : '.'}{' '}
      {HOW[name]}
    </Help>
  );
}

const HOW: Partial<Record<ResultFigure, string>> = {
  ctr: 'All clicks by all impressions, not the mean of the rows.',
  cpc: 'All cost by all clicks, not the mean of the rows.',
  rate: 'All conversions by all clicks, of rows that tell both.',
  costPerConversion: 'All cost by all conversions, of rows that tell both.',
  return: 'All value by all cost, of rows that tell both.',
  conversions: 'Conversions of the last days may still come.',
};
