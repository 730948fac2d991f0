import type { ReportReading } from '@sprig/contracts';
import {
  type CountedFigure,
  countedFigures,
  type NotMet,
  NotMetList,
  type ReadFact,
  type ReportProblem,
  type ToldOtherwise,
} from '@sprig/core/learn';

const SHOWN = 20;
const SHOWN_TEXT = 200;

/** Counts all, and keeps a few to be shown. */
class Some<T> {
  readonly shown: T[] = [];
  count = 0;

  add(one: T): void {
    this.count++;
    if (this.shown.length < SHOWN) this.shown.push(one);
  }

  get told(): { count: number; shown: T[] } {
    return { count: this.count, shown: this.shown };
  }
}

type Told = ReportReading;

/** What is to be said of a report beside its rows. */
export class ReadingNotes {
  private readonly problems = new Some<Told['problems']['shown'][number]>();
  private readonly aside = new Some<Told['setAside']['shown'][number]>();
  private readonly repeats = new Some<number>();
  private readonly differing = new Some<Told['otherwise']['shown'][number]>();
  private readonly unlikely = new Some<number>();
  private readonly notMet = new NotMetList();
  private readonly sums: (number | null)[] = countedFigures.map(() => null);
  private met = 0;

  constructor(private readonly headingOf: (role: ToldOtherwise['role']) => string) {}

  problem({ line, code, column, text }: ReportProblem): void {
    this.problems.add({ line, code, column, text: text.slice(0, SHOWN_TEXT) });
  }

  broken(line: number, raw: string): void {
    this.problems.add({ line, code: 'broken', column: '', text: raw.slice(0, SHOWN_TEXT) });
  }

  setAside(line: number, fields: readonly string[]): void {
    this.aside.add({ line, text: fields.join(' · ').slice(0, SHOWN_TEXT) });
  }

  repeated(line: number): void {
    this.repeats.add(line);
  }

  otherwise({ line, role, told, worked }: ToldOtherwise): void {
    this.differing.add({ line, column: this.headingOf(role), told, worked });
  }

  fact(fact: ReadFact, not: NotMet | null): void {
    const { clicks, impressions } = fact.told;
    if (clicks !== null && impressions !== null && clicks > impressions) this.unlikely.add(fact.line);
    if (not === null) this.met++;
    else this.notMet.add(fact, not);
    for (let at = 0; at < countedFigures.length; at++) {
      const value = fact.told[countedFigures[at] as CountedFigure];
      if (value !== null) this.sums[at] = (this.sums[at] ?? 0) + value;
    }
  }

  get told() {
    const totals = countedFigures.map((name, at) => [name, this.sums[at] ?? null] as const);
    return {
      totals: Object.fromEntries(totals) as Told['totals'],
      problems: this.problems.told,
      setAside: this.aside.told,
      repeated: this.repeats.told,
      otherwise: this.differing.told,
      unlikely: this.unlikely.told,
      notMet: this.notMet.list().slice(0, 200),
      met: this.met,
    } satisfies Partial<Told>;
  }
}
