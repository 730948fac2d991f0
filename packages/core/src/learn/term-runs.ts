/** What came of one search term: amounts in millionths, conversions in millionths. */
export type TermFigures = { cost: number; clicks: number; conversions: number };
/** A word or two in a row, over all terms that have it, and the one of these that cost the most. */
export type TermRun = TermFigures & { run: string; terms: number; dearest: string };

/**
 * The words of terms, and runs of two of them, each counted once a term; those that cost the most first. Words that carry no
 * meaning by themselves stand in runs only. O(words).
 */
export function termRuns(
  terms: Iterable<{ term: string } & TermFigures>,
  functionWords: ReadonlySet<string>,
): TermRun[] {
  const runs = new Map<string, TermRun & { most: number }>();
  for (const { term, cost, clicks, conversions } of terms) {
    const words = term.split(' ');
    const own = new Set<string>();
    for (const [at, word] of words.entries()) {
      if (!functionWords.has(word)) own.add(word);
      const next = words[at + 1];
      if (next !== undefined) own.add(`${word} ${next}`);
    }
    for (const run of own) {
      const sum = runs.get(run);
      if (sum) {
        sum.cost += cost;
        sum.clicks += clicks;
        sum.conversions += conversions;
        sum.terms++;
        if (cost > sum.most) [sum.dearest, sum.most] = [term, cost];
      } else runs.set(run, { run, cost, clicks, conversions, terms: 1, dearest: term, most: cost });
    }
  }
  return Array.from(runs.values(), ({ most: _, ...run }) => run).sort(
    (a, b) => b.cost - a.cost || (a.run < b.run ? -1 : 1),
  );
}

/** Those that cost and sold nothing; a run of two only where it says more than one of its words does by itself. */
export function onlyCosting(runs: readonly TermRun[]): TermRun[] {
  const costing = runs.filter(({ cost, conversions }) => cost > 0 && conversions <= 0);
  const termsOf = new Map(costing.map(({ run, terms }) => [run, terms]));
  return costing.filter(({ run, terms }) => {
    const words = run.split(' ');
    return words.length === 1 || words.every((word) => termsOf.get(word) !== terms);
  });
}
