import { eachDay, type Time } from './day.ts';
import { type ReportLayout, type ReportOptions, type ReportRecord, reportLayout } from './report-layout.ts';
import { type ReadFact, type ReportProblem, ReportRows, type ToldOtherwise } from './report-rows.ts';

export type ReportReading = {
  layout: ReportLayout;
  facts: ReadFact[];
  /** Times that the report says it is of, whether they have rows or not. */
  said: Time[];
  problems: ReportProblem[];
  setAside: { line: number; fields: readonly string[] }[];
  repeated: number[];
  otherwise: ToldOtherwise[];
  /** The account that each row is of which is of another than the one that is read. */
  others: string[];
};

/** Times that a report says it is of, whether they have rows or not: a day without a row had nothing. */
export const timesSaid = ({ grain, range }: ReportLayout): Time[] => {
  return grain.step === 'day' && range ? eachDay(range) : [];
};

/**
 * Reads a report: title lines with the range, headings, rows, totals above or below. Nothing is dropped: what is no fact is a
 * problem, set aside, or counted as repeated. null where it has no headings of a report. While something is open, nothing
 * is read of it. O(cells).
 */
export function readReport(
  records: readonly ReportRecord[],
  options: ReportOptions = {},
): ReportReading | null {
  const layout = reportLayout(records, options);
  if (!layout) return null;
  const reading: ReportReading = {
    layout,
    facts: [],
    said: timesSaid(layout),
    problems: [],
    setAside: [],
    repeated: [],
    otherwise: [],
    others: [],
  };
  if (layout.open.length > 0) return reading;
  const rows = new ReportRows(layout, {
    fact: ({ line, nth, key, time, campaign, place, names, told }) =>
      reading.facts.push({ line, nth, key, time, campaign, place, names, told: { ...told } }),
    problem: (problem) => reading.problems.push(problem),
    setAside: (line, fields) => reading.setAside.push({ line, fields }),
    repeated: (line) => reading.repeated.push(line),
    otherwise: (told) => reading.otherwise.push(told),
    other: (account) => reading.others.push(account),
  });
  for (const record of records) if (record.line > layout.headerLine) rows.push(record);
  return reading;
}
