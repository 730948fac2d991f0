import type { CellValue, Outlet, RowKind, SheetProfile } from '@sprig/core/outlets';
import { type Account, type AccountRow, keyOfRow, onceIn, type Said } from './account.ts';
import type { Answer, HandedIn, Verdict } from './answer.ts';
import { textLength } from './length.ts';
import { decode, readTable, type Table, tableOf, type Visit } from './table.ts';

export type { Answer, HandedIn, Verdict } from './answer.ts';

/** A sheet that was opened, with its rows by their kind. */
type Sheet = {
  file: string;
  table: Table;
  profile: SheetProfile;
  rowsByKind: RowsByKind;
  strange: Strange[];
};
type RowsByKind = Record<RowKind, number[]>;
/** A row of no kind. */
type Strange = { row: number; reason: string };
type Has = ReadonlySet<CellValue>;
/** A row that was refused. */
type Refused = Strange & { sheet: Sheet };

const BIDS = ['bid', 'bid-search', 'bid-partners', 'bid-display'] as const;
/** Parents are taken before what they contain, whatever the order of the files. */
const TURNS: readonly RowKind[] = ['campaign', 'group', 'keyword', 'negative', 'ad', 'extra'];

/**
 * A simulated engine: it takes sheets through a reader of its own, by its outlet's profile, and keeps an account. `inPlace`
 * are the prerequisites that are met there.
 */
export class Engine {
  private seen = new Set<string>();
  private inGroup = new Map<string, { rows: number; negatives: number }>();
  private readonly once = new Map<string, string>();

  constructor(
    private readonly outlet: Outlet,
    private readonly account: Account,
    private readonly inPlace: readonly string[],
    today: string,
    private readonly decimals: number,
  ) {
    if (account.day !== today) {
      account.day = today;
      account.budgetChanges = 0;
    }
    for (const { kind, said } of account.rows.values()) this.count(kind, said, 1);
  }

  take(files: readonly HandedIn[]): Answer {
    const missing = this.outlet.needs.find(
      ({ key, before }) => before === 'sheets' && !this.inPlace.includes(key),
    );
    if (missing)
      return {
        refused: `No sheet is taken before this is in place: ${missing.words}.`,
        verdicts: [],
        taken: 0,
        answers: [],
      };
    const verdicts: Verdict[] = [];
    const sheets: Sheet[] = [];
    const refused: Refused[] = [];
    for (const file of files) {
      const read = this.open(file);
      if (typeof read === 'string') verdicts.push({ file: file.name, line: 0, reason: read });
      else {
        sheets.push(read);
        for (const row of read.strange) refused.push({ sheet: read, ...row });
      }
    }
    let taken = 0;
    for (const kind of TURNS)
      for (const sheet of sheets) {
        const { columns } = sheet.profile;
        const values = columns.map(({ value }) => value);
        const has = new Set(values);
        for (const row of sheet.rowsByKind[kind]) {
          const reason = this.takeRow(kind, this.saidBy(values, sheet.table.rows.cells(row)), has);
          if (reason === '') taken++;
          else refused.push({ sheet, row, reason });
        }
      }
    for (const { sheet, row, reason } of refused)
      verdicts.push({ file: sheet.file, line: sheet.table.rows.line(row), reason });
    verdicts.sort((a, b) => (a.file < b.file ? -1 : a.file > b.file ? 1 : a.line - b.line));
    return { refused: '', verdicts, taken, answers: this.answers(refused) };
  }

  private open(file: HandedIn): Sheet | string {
    const { sheets, file: form } = this.outlet;
    const base = file.name.replace(/\.[a-z]+$/, '').replace(/-\d+$/, '');
    const profile = sheets.find(({ fileName }) => fileName === base || file.name.startsWith(`${fileName}.`));
    if (!profile) return `No sheet is known by the name “${file.name}”.`;
    const rowsByKind: RowsByKind = { campaign: [], group: [], keyword: [], negative: [], ad: [], extra: [] };
    const strange: Strange[] = [];
    const visit = this.inTurn(profile, rowsByKind, strange);
    let table: Table;
    if ('cells' in file) table = tableOf(file.cells, visit);
    else {
      const text = decode(file.bytes, form);
      if (text === null)
        return `The file is not in ${form.encoding}${form.byteOrderMark ? ' with its mark' : ''}.`;
      const reading = readTable(text, file.name.endsWith('.csv') ? form.delimiter : '\t', visit);
      if (reading.status === 'refused') return reading.reason;
      table = reading.table;
    }
    if (form.rowsPerFile !== null && table.rows.size > form.rowsPerFile)
      return `A file may have ${form.rowsPerFile} rows; this one has ${table.rows.size}.`;
    const wanted = profile.columns.map(({ heading }) => heading);
    const at = wanted.findIndex((heading, n) => table.headings[n] !== heading);
    if (at >= 0 || table.headings.length !== wanted.length)
      return `Column ${(at < 0 ? wanted.length : at) + 1} should be “${wanted[at] ?? 'none'}”.`;
    return { file: file.name, table, profile, rowsByKind, strange };
  }

  /** Puts rows where they are taken in their turn. */
  private inTurn(profile: SheetProfile, rowsByKind: RowsByKind, strange: Strange[]): Visit {
    const { length } = profile.columns;
    const at = profile.columns.findIndex(({ value }) => value === 'row-kind');
    return (row, cells) => {
      const isWhole = cells.length === length;
      const kind = isWhole ? this.kindOf(profile, cells[at]) : null;
      if (kind) rowsByKind[kind].push(row);
      else if (isWhole) strange.push({ row, reason: `“${cells[at]}” is no kind of row.` });
      else strange.push({ row, reason: `${cells.length} cells stand under ${length} headings.` });
    };
  }

  private kindOf({ kind }: SheetProfile, named: string | undefined): RowKind | null {
    if (kind !== 'combined') return TURNS.find((one) => `${one}s` === kind) ?? null;
    const { rowKinds } = this.outlet.words;
    return TURNS.find((one) => rowKinds[one] === named) ?? null;
  }

  /** Why a row is refused; empty where it is taken, and then it stands in the account. */
  private takeRow(kind: RowKind, said: Said, has: Has): string {
    const key = keyOfRow(kind, said);
    if (this.seen.has(key)) return 'The same row stands twice in what was handed in.';
    this.seen.add(key);
    const there = this.account.rows.get(key);
    const { words } = this.outlet;
    const state = said.status;
    if (state === words.removed) {
      if (!there) return 'There is nothing of this kind to take out.';
      this.account.rows.delete(key);
      this.count(kind, there.said, -1);
      return '';
    }
    if (has.has('status') && state !== words.enabled && state !== words.paused)
      return `“${state ?? ''}” is no state.`;
    const reason = this.parents(kind, said) || this.refusal(kind, said, has, there);
    if (reason !== '') return reason;
    if (!there) this.count(kind, said, 1);
    this.account.rows.set(key, { kind, said });
    return '';
  }

  private parents(kind: RowKind, { campaign = '', group = '' }: Said): string {
    if (kind === 'campaign' || (kind === 'extra' && campaign === '')) return '';
    if (!this.account.rows.has(keyOfRow('campaign', { campaign })))
      return `There is no campaign “${campaign}”.`;
    if (kind === 'group' || group === '')
      return kind === 'keyword' || kind === 'ad' ? 'An ad group is missing.' : '';
    return this.account.rows.has(keyOfRow('group', { campaign, group }))
      ? ''
      : `There is no ad group “${group}” in “${campaign}”.`;
  }

  private refusal(kind: RowKind, said: Said, has: Has, there: AccountRow | undefined): string {
    switch (kind) {
      case 'campaign':
        return this.campaign(said, has, there);
      case 'group':
        return (
          this.name(said.group ?? '', this.outlet.limits.groupName) ||
          this.matching(said, false) ||
          this.bids(said, has, true)
        );
      case 'keyword':
      case 'negative':
        return this.keyword(kind, said, has, there !== undefined);
      case 'ad':
        return this.ad(said, has);
      case 'extra':
        return this.extra(said);
    }
  }

  private name(name: string, limit: number): string {
    if (name.trim() === '') return 'A name is missing.';
    return textLength(name) > limit
      ? `The name has ${textLength(name)} characters; ${limit} are allowed.`
      : '';
  }

  private campaign(said: Said, has: Has, there: AccountRow | undefined): string {
    const { budget, limits } = this.outlet;
    const named = this.name(said.campaign ?? '', limits.campaignName);
    if (named) return named;
    const money = said['daily-budget'] ?? '';
    const amount = this.amount(money);
    if (amount === null || amount === 0) return `“${money}” is no daily budget.`;
    if (budget.least !== null && amount < budget.least)
      return `The daily budget ${money} is under the least.`;
    if (has.has('locations') && !said.locations)
      return 'The campaign has no place: it would be shown everywhere.';
    if (has.has('languages') && !said.languages) return 'The campaign has no language.';
    const matching = this.matching(said, has.has('match-setting'));
    if (matching) return matching;
    const before = there?.said['daily-budget'];
    if (before === undefined || before === money || budget.changesPerDay === null) return '';
    if (this.account.budgetChanges >= budget.changesPerDay)
      return `${budget.changesPerDay} budgets were changed today: no more before tomorrow.`;
    this.account.budgetChanges++;
    return '';
  }

  /** An ad group may say nothing: it matches as its campaign does. */
  private matching({ 'match-setting': setting = '' }: Said, mustSay: boolean): string {
    const isKnown = Object.values(this.outlet.words.matchSettings).includes(setting);
    return isKnown || (setting === '' && !mustSay) ? '' : `“${setting}” is no setting of how keywords match.`;
  }

  private bids(said: Said, has: Has, mayMiss: boolean): string {
    const typed = BIDS.flatMap((value) => said[value] ?? []);
    if (typed.length === 0 && !mayMiss && BIDS.some((value) => has.has(value))) return 'A bid is missing.';
    const { least } = this.outlet.bids;
    const step = this.outlet.bidIncrement ?? 10 ** (6 - this.decimals);
    for (const text of typed) {
      const amount = this.amount(text);
      if (amount === null || amount === 0) return `“${text}” is no bid.`;
      if (least !== null && amount < least) return `The bid ${text} is under the least.`;
      if (amount % step !== 0) return `The bid ${text} is no multiple of the bid step.`;
    }
    return '';
  }

  /** Micros; null where the text is no amount as this engine writes them. */
  private amount(text: string): number | null {
    const { mark, unit } = this.outlet.money;
    const found = (mark === '.' ? /^(\d{1,9})(?:\.(\d{1,6}))?$/ : /^(\d{1,9})(?:,(\d{1,6}))?$/).exec(text);
    if (!found) return null;
    const micros = Number(found[1]) * 1_000_000 + Number((found[2] ?? '').padEnd(6, '0'));
    return unit === 'major' ? micros : Math.round(micros / 10 ** this.decimals);
  }

  private keyword(kind: 'keyword' | 'negative', said: Said, has: Has, isThere: boolean): string {
    const { limits, words, matchTypes, negativeTypes, match } = this.outlet;
    const typed = said['keyword-notation'] ?? said.keyword ?? '';
    const bare = has.has('keyword-notation') ? this.bare(kind, typed) : typed;
    if (bare === null) return `“${typed}” is in no notation that is known here.`;
    if (bare.trim() === '') return 'A keyword is missing.';
    if (textLength(bare) > limits.keywordLength)
      return `The keyword has ${textLength(bare)} characters; ${limits.keywordLength} are allowed.`;
    if (bare.split(' ').length > limits.keywordWords)
      return `The keyword has ${bare.split(' ').length} words; ${limits.keywordWords} are allowed.`;
    const known = kind === 'keyword' ? matchTypes : negativeTypes;
    const isMarked = /(^| )\+\S/.test(bare);
    if (isMarked && !known.includes('modified')) return 'Marks before words mean nothing here.';
    if (
      match === 'column' &&
      has.has('match-type') &&
      !known.some((type) => words.matchTypes[type] === said['match-type'])
    )
      return `“${said['match-type'] ?? ''}” is no match type of ${kind === 'keyword' ? 'a keyword' : 'a negative'} here.`;
    const counts = this.inGroup.get(placeOf(said));
    if (!isThere && kind === 'keyword' && (counts?.rows ?? 0) >= limits.rowsPerGroup)
      return `An ad group may have ${limits.rowsPerGroup} keywords.`;
    if (!isThere && kind === 'negative' && (counts?.negatives ?? 0) >= limits.negativesPerGroup)
      return `${limits.negativesPerGroup} negatives may stand in one place.`;
    return kind === 'keyword' ? this.bids(said, has, this.outlet.bids.on === 'group') : '';
  }

  /** A keyword without its notation; null where it has none that is known. */
  private bare(kind: 'keyword' | 'negative', typed: string): string | null {
    const { notation, negative } = this.outlet.words;
    let text = typed;
    if (kind === 'negative') {
      const [before = '', after = ''] = negative.split('@');
      if (!text.startsWith(before) || !text.endsWith(after)) return null;
      text = text.slice(before.length, text.length - after.length);
    }
    const types = kind === 'keyword' ? this.outlet.matchTypes : this.outlet.negativeTypes;
    const around = types
      .map((type) => notation[type].split('@') as [string, string])
      .sort((a, b) => b.join('').length - a.join('').length);
    for (const [before, after] of around)
      if (text.startsWith(before) && text.endsWith(after) && text.length > before.length + after.length)
        return text.slice(before.length, text.length - after.length);
    return null;
  }

  private ad(said: Said, has: Has): string {
    const { ad, words, limits } = this.outlet;
    const forms = ['plain', 'assembled'] as const;
    const form = has.has('ad-form') ? forms.find((one) => words.adForms[one] === said['ad-form']) : forms[0];
    const rules = form && ad[form];
    if (!rules) return `“${said['ad-form'] ?? ''}” is no form of ad here.`;
    for (const [part, name] of [
      ['headlines', 'headline'],
      ['descriptions', 'description'],
      ['paths', 'path'],
    ] as const) {
      const { limit, least, most } = rules[part];
      const texts = Object.entries(said).filter(
        ([value, text]) => value.startsWith(name) && /\d$/.test(value) && text !== '',
      );
      if (texts.length < least) return `${least} of ${part} are needed; there are ${texts.length}.`;
      if (texts.length > most) return `${most} of ${part} are allowed; there are ${texts.length}.`;
      for (const [value, text] of texts) {
        const length = textLength(this.asShown(text));
        if (length > limit) return `${value} has ${length} characters; ${limit} are allowed.`;
        if (/!!|\?\?/.test(text)) return `${value} has the same mark twice in a row.`;
        if (name === 'headline' && text.includes('!')) return `${value} has an exclamation mark.`;
      }
    }
    const address = said['final-url'] ?? '';
    if (!/^https?:\/\/[^\s/]+\.[^\s/]+/.test(address)) return `“${address}” is no web address.`;
    return address.length > limits.finalUrl
      ? `The address has ${address.length} characters; ${limits.finalUrl} are allowed.`
      : '';
  }

  /** A text with what stands in for each insertion. */
  private asShown(text: string): string {
    const { insertion } = this.outlet.ad;
    if (!insertion) return text;
    let shown = text;
    for (const notation of Object.values(insertion)) {
      const [before = '', after = ''] = notation.split('@default');
      if (before === '') continue;
      for (let at = shown.indexOf(before); at >= 0; at = shown.indexOf(before, at)) {
        const end = after === '' ? shown.length : shown.indexOf(after, at + before.length);
        if (end < 0) break;
        shown = shown.slice(0, at) + shown.slice(at + before.length, end) + shown.slice(end + after.length);
      }
    }
    return shown;
  }

  private extra(said: Said): string {
    const { extraKinds } = this.outlet.words;
    const { sitelink, callout } = this.outlet.ad.extras;
    const text = said['extra-text'] ?? '';
    const over = (cell: string, limit: number) =>
      textLength(cell) > limit ? `“${cell}” has ${textLength(cell)} characters; ${limit} are allowed.` : '';
    switch (said['extra-kind']) {
      case extraKinds.sitelink:
        if (!/^https?:\/\//.test(said['final-url'] ?? '')) return 'A link needs a web address.';
        return (
          over(text, sitelink.text) ||
          over(said['extra-line1'] ?? '', sitelink.line) ||
          over(said['extra-line2'] ?? '', sitelink.line)
        );
      case extraKinds.callout:
        return text === '' ? 'A text is missing.' : over(text, callout.text);
      case extraKinds.phone:
        return /^\+?\d{5,15}$/.test(said['extra-number'] ?? '')
          ? ''
          : `“${said['extra-number'] ?? ''}” is no phone number.`;
      default:
        return `“${said['extra-kind'] ?? ''}” is no kind of extra here.`;
    }
  }

  /** What a row's cells tell; texts that many rows share are in memory once. */
  private saidBy(values: readonly CellValue[], cells: readonly string[]): Said {
    const said: Said = {};
    for (let at = 0; at < values.length; at++) {
      const text = cells[at] as string;
      if (text !== '') onceIn(said, values[at] as CellValue, text, this.once);
    }
    return said;
  }

  private count(kind: RowKind, said: Said, step: number) {
    if (kind !== 'keyword' && kind !== 'negative') return;
    const place = placeOf(said);
    const counts = this.inGroup.get(place) ?? { rows: 0, negatives: 0 };
    if (kind === 'keyword') counts.rows += step;
    else counts.negatives += step;
    this.inGroup.set(place, counts);
  }

  private answers(refused: readonly Refused[]) {
    const quoted = (cells: readonly string[]) =>
      cells.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(',');
    const bySheet = new Map<Sheet, Refused[]>();
    for (const one of refused) {
      const there = bySheet.get(one.sheet);
      if (there) there.push(one);
      else bySheet.set(one.sheet, [one]);
    }
    return [...bySheet].map(([{ file, table }, own]) => {
      own.sort((a, b) => a.row - b.row);
      const lines = [
        quoted([...table.headings, this.outlet.answer.refusal]),
        ...own.map(({ row, reason }) => quoted([...table.rows.cells(row), reason])),
      ];
      return { name: `answer-${file.replace(/\.[a-z]+$/, '')}.csv`, text: `${lines.join('\n')}\n` };
    });
  }
}

const placeOf = ({ campaign = '', group = '' }: Said): string => JSON.stringify([campaign, group]);
