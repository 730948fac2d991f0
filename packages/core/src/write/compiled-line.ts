import { itemAt, stringAt } from '../access/index.ts';
import {
  type CaseStyle,
  type Casing,
  caseStyles,
  gapIn,
  inCase,
  type LanguagePack,
  type Line,
  lengthOf,
  stretchInCase,
  type TokenName,
  type TokenPart,
  type TokenValues,
  tokenValue,
} from '../text/index.ts';

export type TextRules = { pack: LanguagePack; casing: Casing };

/** A stretch of a text that the engine fills in anew for each search, and the case it is to take. */
export type LiveStretch = { from: number; to: number; style: CaseStyle };

/** A line with its tokens filled in, in its case. */
export type WrittenLine = { text: string; length: number; live: readonly LiveStretch[] };

const none: readonly LiveStretch[] = [];
const ASCII = /^[\0-\x7f]*$/;
/** What may stand right behind a token without being part of its last word. */
const MARK_BEHIND = /^[?!.,;:)\]"]/;

/**
 * A stretch in its case. `opens` and `closes`: its first or last word is a part of a form that may lie across; `closes` is
 * null where it has no word, so that what is before it meets what is behind.
 */
type Stretch = { text: string; isAscii: boolean; opens: boolean; closes: boolean | null };
type StretchCase = { style: CaseStyle; first: boolean; last: boolean };

/** A part made ready: text that never changes, or a token and the case that its value takes there. */
type ReadyPart = Stretch | { token: TokenPart; cased: StretchCase };

/**
 * A line made ready to be filled in many times: its own words are put in their case once, and a group's values once for
 * all lines they stand in. Where that can't be told part by part (words glued to a token, letters that are no ASCII, a form
 * of the casing list that lies across) the whole line is put in its case, which is always right and slower.
 */
export class CompiledLine {
  private ready: { style: CaseStyle; writing: TextRules; parts: ReadyPart[] | null } | null = null;
  private once: WrittenLine | null = null;
  private readonly isConstant: boolean;
  /** What is still to be written in it; null where nothing is. */
  readonly gap: string | null;

  constructor(readonly line: Line) {
    this.isConstant = line.parts.every(({ kind }) => kind === 'text');
    this.gap = gapIn(line);
  }

  get hasLive(): boolean {
    return this.line.parts.some((part) => part.kind === 'token' && part.live);
  }

  /** The line as the engine fills it in: what to fall back on gives way to the keyword. */
  live(): CompiledLine {
    const parts = this.line.parts.map((part) => {
      if (part.kind === 'text' || !part.live) return part;
      const { or: _, ...rest } = part;
      return rest;
    });
    return new CompiledLine({ parts });
  }

  /** Undefined where a token has no value, or nothing is left. */
  write(values: TokenValues, style: CaseStyle, writing: TextRules): WrittenLine | undefined {
    if (this.ready?.style !== style || this.ready.writing !== writing) {
      this.ready = { style, writing, parts: this.isConstant ? null : readyParts(this.line, style, writing) };
      this.once = this.isConstant ? (this.whole(values, style, writing) ?? null) : null;
    }
    if (this.isConstant) return this.once ?? undefined;
    const { parts } = this.ready;
    if (parts === null) return this.whole(values, style, writing);
    const cases = casesOf(values, writing);
    let text = '';
    let live = none;
    let closes = false;
    for (const part of parts) {
      let stretch = part as Stretch;
      if ('token' in part) {
        const value = tokenValue(part.token, values);
        if (value === undefined) return undefined;
        const cased = cases.stretch(part.token.name, value, part.cased);
        if (cased === null) return this.whole(values, style, writing);
        stretch = cased;
        if (part.token.live) {
          const one = { from: text.length, to: text.length + cased.text.length, style: part.cased.style };
          live = live === none ? [one] : [...live, one];
        }
      }
      if (!stretch.isAscii || (closes && stretch.opens)) return this.whole(values, style, writing);
      text += stretch.text;
      closes = stretch.closes ?? closes;
    }
    return { text, length: text.length, live };
  }

  /** The line put in its case as a whole; tokens with a case of their own keep it. */
  whole(values: TokenValues, style: CaseStyle, writing: TextRules): WrittenLine | undefined {
    const { pack, casing } = writing;
    const texts: string[] = [];
    for (const part of this.line.parts) {
      const value = part.kind === 'text' ? part.text : tokenValue(part, values);
      if (value === undefined) return undefined;
      texts.push(value);
    }
    if (texts.join('').trim() === '') return undefined;
    trimEnds(texts);
    const plain = texts.join('');
    const cased = inCase(plain, style, pack, casing);
    const isEven = cased.length === plain.length;
    let from = 0;
    let text = '';
    const live: LiveStretch[] = [];
    this.line.parts.forEach((part, at) => {
      const own = stringAt(texts, at);
      const token = part.kind === 'token' ? part : null;
      const stretch = token?.style
        ? inCase(own, token.style, pack, casing)
        : isEven
          ? cased.slice(from, from + own.length)
          : inCase(own, style, pack, casing);
      if (token?.live)
        live.push({ from: text.length, to: text.length + stretch.length, style: token.style ?? style });
      text += stretch;
      from += own.length;
    });
    return { text, length: lengthOf(text), live };
  }
}

/** Takes the spaces off both ends of a text in pieces. */
function trimEnds(texts: string[]): void {
  for (let at = 0; at < texts.length; at++) {
    texts[at] = stringAt(texts, at).trimStart();
    if (texts[at] !== '') break;
  }
  for (let at = texts.length - 1; at >= 0; at--) {
    texts[at] = stringAt(texts, at).trimEnd();
    if (texts[at] !== '') break;
  }
}

/** The line's parts made ready for one case; null where they can't be put in it one by one. */
function readyParts({ parts }: Line, style: CaseStyle, writing: TextRules): ReadyPart[] | null {
  const last = parts.length - 1;
  const ready: ReadyPart[] = [];
  for (let at = 0; at <= last; at++) {
    const part = itemAt(parts, at);
    const before = parts[at - 1];
    const behind = parts[at + 1];
    if (part.kind === 'text') {
      const text = at === 0 ? part.text.trimStart() : at === last ? part.text.trimEnd() : part.text;
      if (at === 0 && text === '') continue;
      if (at < last && !text.endsWith(' ')) return null;
      if (at > 0 && text !== '' && !text.startsWith(' ') && !MARK_BEHIND.test(text)) return null;
      ready.push(stretchOf(text, { style, first: at === 0, last: at === last }, writing));
      continue;
    }
    if (before?.kind === 'token' || behind?.kind === 'token') return null;
    const isFirst = at === 0 || (at === 1 && before?.text.trim() === '');
    const isGlued = behind?.kind === 'text' && behind.text !== '' && !behind.text.startsWith(' ');
    const isLast = at === last || (at === last - 1 && behind?.text.trim() === '');
    const cased = part.style
      ? { style: part.style, first: true, last: true }
      : { style, first: isFirst, last: isLast || isGlued };
    ready.push({ token: part, cased });
  }
  return ready;
}

function stretchOf(text: string, { style, first, last }: StretchCase, { pack, casing }: TextRules): Stretch {
  const cased = stretchInCase(text, style, pack, casing, first, last);
  const isAscii = ASCII.test(cased);
  if (!isAscii || !casing || casing.parts.size === 0)
    return { text: cased, isAscii, opens: false, closes: false };
  const [open, close] = edgeWords(text);
  return {
    text: cased,
    isAscii,
    opens: casing.parts.has(open),
    closes: close === '' ? null : casing.parts.has(close),
  };
}

const isLoose = (code: number) =>
  (code >= 97 && code <= 122) || (code >= 48 && code <= 57) || (code >= 65 && code <= 90);

/** The first and the last run of letters and figures of an ASCII text, in lower case. */
function edgeWords(text: string): [string, string] {
  let from = 0;
  while (from < text.length && !isLoose(text.charCodeAt(from))) from++;
  let to = from;
  while (to < text.length && isLoose(text.charCodeAt(to))) to++;
  let end = text.length;
  while (end > 0 && !isLoose(text.charCodeAt(end - 1))) end--;
  let start = end;
  while (start > 0 && isLoose(text.charCodeAt(start - 1))) start--;
  return [text.slice(from, to).toLowerCase(), text.slice(start, end).toLowerCase()];
}

type CasedValue = {
  name: TokenName;
  value: string;
  /** Its words can be told by single spaces. */
  isTidy: boolean;
  /** Its first and its last word are function words, which take another case at the ends of a title. */
  opensSmall: boolean;
  closesSmall: boolean;
  stretches: (Stretch | undefined)[];
};

/** A group's values in the cases that lines have asked for. */
class Cases {
  private readonly cased: CasedValue[] = [];

  constructor(readonly writing: TextRules) {}

  /** Null where the value can't be put in its case by itself. */
  stretch(name: TokenName, value: string, { style, first, last }: StretchCase): Stretch | null {
    const cased = this.valueOf(name, value);
    if (!cased.isTidy) return null;
    const isFirst = first && (style === 'sentence' || (style === 'title' && cased.opensSmall));
    const isLast = last && style === 'title' && cased.closesSmall;
    const cell = caseStyles.indexOf(style) * 4 + (isFirst ? 2 : 0) + (isLast ? 1 : 0);
    let stretch = cased.stretches[cell];
    if (stretch === undefined) {
      stretch = stretchOf(value, { style, first: isFirst, last: isLast }, this.writing);
      cased.stretches[cell] = stretch;
    }
    return stretch;
  }

  private valueOf(name: TokenName, value: string): CasedValue {
    const at = this.cased.findIndex((one) => one.name === name);
    const there = this.cased[at];
    if (there?.value === value) return there;
    const { functionWords } = this.writing.pack;
    const end = value.indexOf(' ');
    const isSmall = (word: string) => functionWords.has(word.toLowerCase());
    const made: CasedValue = {
      name,
      value,
      isTidy: !value.startsWith(' ') && !value.endsWith(' ') && !value.includes('  '),
      opensSmall: isSmall(end < 0 ? value : value.slice(0, end)),
      closesSmall: isSmall(value.slice(value.lastIndexOf(' ') + 1)),
      stretches: [],
    };
    if (at < 0) this.cased.push(made);
    else this.cased[at] = made;
    return made;
  }
}

class KeptValues {
  private cases: Cases | null = null;

  constructor(values: TokenValues) {
    Object.assign(this, values);
  }

  casesFor(writing: TextRules): Cases {
    if (this.cases?.writing !== writing) this.cases = new Cases(writing);
    return this.cases;
  }
}

/** A group's values, with what they are in the cases that lines have asked for: to be kept while patterns change. */
export const groupValues = (values: TokenValues): TokenValues => new KeptValues(values) as TokenValues;

/** Other values are filled in line by line, too, but only the last ones' cases are kept. */
let last = { values: {} as TokenValues, cases: null as Cases | null };

function casesOf(values: TokenValues, writing: TextRules): Cases {
  if (values instanceof KeptValues) return values.casesFor(writing);
  if (last.values !== values || last.cases?.writing !== writing) last = { values, cases: new Cases(writing) };
  return last.cases as Cases;
}
