import { int32At, itemAt } from '../access/index.ts';
import { readWordLine } from './words.ts';

type Line = { raw: string; forms: string[]; problems: number };

/**
 * Counts the forms of a list as it is typed: only the lines that differ from the text before are read again, so that a
 * keystroke in 50,000 lines costs what one line costs, and two looks along the text.
 */
export class WordsReader {
  private text = '';
  private lines: Line[] = [];
  /** Where each line begins; longer than the lines are. */
  private starts = new Int32Array(16);
  private readonly all = new Map<string, number>();
  private readonly firsts = new Map<string, number>();
  /** Lines that hold something that is no keyword. */
  problems = 0;

  /** Takes the list as it reads now. */
  take(text: string): this {
    const next = text.includes('\r') ? text.replace(/\r\n?/g, '\n') : text;
    const before = this.text;
    const same = sameStart(before, next);
    const end = sameEnd(before, next, same);
    const first = this.lineAt(same);
    const last = this.lineAt(before.length - end);
    const from = this.starts[first] ?? 0;
    const to = (this.starts[last] ?? 0) + (this.lines[last]?.raw.length ?? 0);
    const fresh = next
      .slice(from, next.length - (before.length - to))
      .split('\n')
      .map(lineOf);
    this.put(first, Math.min(last + 1, this.lines.length), fresh);
    this.text = next;
    return this;
  }

  /** Puts lines in the place of others, and tallies both. */
  private put(first: number, end: number, fresh: readonly Line[]) {
    for (let at = first; at < end; at++) this.tally(itemAt(this.lines, at), -1);
    for (const line of fresh) this.tally(line, 1);
    if (fresh.length < MOST_SPREAD) this.lines.splice(first, end - first, ...fresh);
    else this.lines = [...this.lines.slice(0, first), ...fresh, ...this.lines.slice(end)];
    const starts =
      this.starts.length < this.lines.length ? new Int32Array(this.lines.length * 2) : this.starts;
    if (starts !== this.starts) starts.set(this.starts.subarray(0, first));
    let start = first === 0 ? 0 : int32At(starts, first - 1) + itemAt(this.lines, first - 1).raw.length + 1;
    for (let at = first; at < this.lines.length; at++) {
      starts[at] = start;
      start += itemAt(this.lines, at).raw.length + 1;
    }
    this.starts = starts;
  }

  /** How many forms the list has as a set. */
  size(firstFormOnly: boolean): number {
    return (firstFormOnly ? this.firsts : this.all).size;
  }

  private tally({ forms, problems }: Line, by: 1 | -1) {
    forms.forEach((form, at) => {
      add(this.all, form, by);
      if (at === 0) add(this.firsts, form, by);
    });
    if (problems > 0) this.problems += by;
  }

  /** The line that a place of the text is in. */
  private lineAt(place: number): number {
    let low = 0;
    let high = this.lines.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (int32At(this.starts, middle) <= place) low = middle;
      else high = middle - 1;
    }
    return low;
  }
}

/** More at once than this are not passed as arguments. */
const MOST_SPREAD = 10_000;

const lineOf = (raw: string): Line => {
  const { forms, problems } = readWordLine(raw);
  return { raw, forms: raw === '' ? [] : forms, problems: problems.length };
};

function add(counts: Map<string, number>, form: string, by: 1 | -1) {
  const count = (counts.get(form) ?? 0) + by;
  if (count === 0) counts.delete(form);
  else counts.set(form, count);
}

const CHUNK = 4_096;

/** How many UTF-16 units two texts share at their start: whole chunks first, which are compared at once. */
function sameStart(one: string, other: string): number {
  const most = Math.min(one.length, other.length);
  let at = 0;
  while (at + CHUNK <= most && one.slice(at, at + CHUNK) === other.slice(at, at + CHUNK)) at += CHUNK;
  while (at < most && one.charCodeAt(at) === other.charCodeAt(at)) at++;
  return at;
}

/** How many characters two texts have alike at their end, of what `start` leaves. */
function sameEnd(one: string, other: string, start: number): number {
  const most = Math.min(one.length, other.length) - start;
  const chunk = (text: string, at: number) => text.slice(text.length - at - CHUNK, text.length - at);
  let at = 0;
  while (at + CHUNK <= most && chunk(one, at) === chunk(other, at)) at += CHUNK;
  while (at < most && one.charCodeAt(one.length - 1 - at) === other.charCodeAt(other.length - 1 - at)) at++;
  return at;
}
