/** In milliseconds, bytes or as such; `×` is a ratio. */
const UNITS: Record<string, number> = {
  ms: 1,
  s: 1e3,
  min: 6e4,
  kB: 1e3,
  MB: 1e6,
  GB: 1e9,
  '%': 1,
  '×': 1,
  '': 1,
};
const AMOUNT = /([\d.,]*\d)\s*(ms|s|min|kB|MB|GB|%|×)?(?![\p{L}\d])/u;
const MARK = ' (over)';

/** The first amount of a text, such as the median of a median and a percentile; null: there is none. */
function amountOf(text: string): number | null {
  const [, digits, unit = ''] = AMOUNT.exec(text) ?? [];
  return digits === undefined ? null : Number(digits.replaceAll(',', '')) * (UNITS[unit] as number);
}

/** Whether what was measured is more than it may be; null: nothing says how much that is. */
export function isOver(measured: string, most: string): boolean | null {
  const [is, may] = [amountOf(measured), amountOf(most)];
  if (is === null || may === null) return null;
  return !measured.includes('under') && is > may;
}

const NOTE = /^\d+ of \d+ rows that may be at most so much are over it\.$/;
const cellsOf = (line: string) =>
  line
    .split('|')
    .slice(1, -1)
    .map((cell) => cell.trim());

/**
 * A report of which each table ends with what was measured or its ratio, and then with how much that may be: every row that is
 * over is marked, and the last line says how many are.
 */
export function withMarks(report: string): string {
  const told = { over: 0, limited: 0 };
  const lines = report
    .trimEnd()
    .split('\n')
    .filter((line) => !NOTE.test(line))
    .map((marked) => {
      if (!marked.startsWith('|')) return marked;
      const line = marked.replace(MARK, '');
      const cells = cellsOf(line);
      const [measured = '', most = ''] = cells.slice(-2);
      const over = isOver(measured, most);
      if (over === null) return line;
      told.limited++;
      if (!over) return line;
      told.over++;
      return `| ${[...cells.slice(0, -1), `${most}${MARK}`].join(' | ')} |`;
    });
  const note = `${told.over} of ${told.limited} rows that may be at most so much are over it.`;
  return `${lines.join('\n').trimEnd()}\n\n${note}\n`;
}
