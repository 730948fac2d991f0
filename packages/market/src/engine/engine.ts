import type { CellValue, Outlet, RowKind, SheetProfile } from '@sprig/core/ship';
import type { Account, AccountRow } from './account.ts';
import { textLength } from './length.ts';
import { decode, readTable, type Table } from './table.ts';

/** A file as it is handed in. A workbook is handed in as its cells. */
export type HandedIn = { name: string; bytes: Uint8Array } | { name: string; cells: string[][] };

/** What the engine says of one row; no reason: it was taken. */
export type Verdict = { file: string; line: number; reason: string };
export type Answer = {
  /** Nothing at all was read, and why. */
  refused: string;
  verdicts: Verdict[];
  taken: number;
  /** For each file with refused rows, a sheet of them with the reasons in a column more. */
  answers: { name: string; text: string }[];
};

type Said = Partial<Record<CellValue, string>>;
type Read = { file: string; line: number; kind: RowKind; said: Said; cells: string[] };

/** Parents are taken before what they contain, whatever the order of the files. */
const TURNS: readonly RowKind[] = ['campaign', 'group', 'keyword', 'negative', 'ad', 'asset'];

/**
 * A simulated engine: it takes sheets through a reader of its own, by its outlet's profile, and keeps an account. `inPlace`
 * are the prerequisites that are met there.
 */
export class Engine {
  private seen = new Set<string>();
  private inGroup = new Map<string, { rows: number; negatives: number }>();

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
    for (const { kind, campaign, group } of account.rows.values()) this.count(kind, campaign, group, 1);
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
    const rows: Read[] = [];
    const headings = new Map<string, string[]>();
    for (const file of files) {
      const read = this.open(file);
      if (typeof read === 'string') verdicts.push({ file: file.name, line: 0, reason: read });
      else {
        headings.set(file.name, read.table.headings);
        rows.push(...this.rowsOf(file.name, read.table, read.profile, verdicts));
      }
    }
    let taken = 0;
    for (const kind of TURNS)
      for (const row of rows) {
        if (row.kind !== kind) continue;
        const reason = this.takeRow(row);
        if (reason === '') taken++;
        else verdicts.push({ file: row.file, line: row.line, reason });
      }
    verdicts.sort((a, b) => (a.file < b.file ? -1 : a.file > b.file ? 1 : a.line - b.line));
    return { refused: '', verdicts, taken, answers: this.answers(verdicts, rows, headings) };
  }

  private open(file: HandedIn): { table: Table; profile: SheetProfile } | string {
    const { sheets, file: form } = this.outlet;
    const base = file.name.replace(/\.[a-z]+$/, '').replace(/-\d+$/, '');
    const profile = sheets.find(({ fileName }) => fileName === base || file.name.startsWith(`${fileName}.`));
    if (!profile) return `No sheet is known by the name “${file.name}”.`;
    let table: Table;
    if ('cells' in file) {
      const [headings = [], ...rest] = file.cells;
      table = { headings, rows: rest.map((cells, at) => ({ line: at + 2, cells })) };
    } else {
      const text = decode(file.bytes, form);
      if (text === null)
        return `The file is not in ${form.encoding}${form.byteOrderMark ? ' with its mark' : ''}.`;
      const reading = readTable(text, file.name.endsWith('.csv') ? form.delimiter : '\t');
      if (reading.status === 'refused') return reading.reason;
      table = reading.table;
    }
    if (form.rowsPerFile !== null && table.rows.length > form.rowsPerFile)
      return `A file may have ${form.rowsPerFile} rows; this one has ${table.rows.length}.`;
    const wanted = profile.columns.map(({ heading }) => heading);
    const at = wanted.findIndex((heading, n) => table.headings[n] !== heading);
    if (at >= 0 || table.headings.length !== wanted.length)
      return `Column ${(at < 0 ? wanted.length : at) + 1} should be “${wanted[at] ?? 'none'}”.`;
    return { table, profile };
  }

  private rowsOf(file: string, table: Table, profile: SheetProfile, verdicts: Verdict[]): Read[] {
    return table.rows.flatMap(({ line, cells }) => {
      if (cells.length !== profile.columns.length) {
        verdicts.push({
          file,
          line,
          reason: `${cells.length} cells stand under ${profile.columns.length} headings.`,
        });
        return [];
      }
      const said: Said = {};
      profile.columns.forEach(({ value }, at) => {
        said[value] = cells[at] as string;
      });
      const kind = this.kindOf(profile, said);
      if (kind) return [{ file, line, kind, said, cells }];
      verdicts.push({ file, line, reason: `“${said['row-kind']}” is no kind of row.` });
      return [];
    });
  }

  private kindOf({ kind }: SheetProfile, said: Said): RowKind | null {
    if (kind !== 'combined') return TURNS.find((one) => `${one}s` === kind) ?? null;
    const { rowKinds } = this.outlet.words;
    return TURNS.find((one) => rowKinds[one] === said['row-kind']) ?? null;
  }

  /** Why a row is refused; empty where it is taken, and then it stands in the account. */
  private takeRow({ kind, said }: Read): string {
    const key = this.keyOf(kind, said);
    if (this.seen.has(key)) return 'The same row stands twice in what was handed in.';
    this.seen.add(key);
    const there = this.account.rows.get(key);
    const { words } = this.outlet;
    const state = said.status;
    if (state === words.removed) {
      if (!there) return 'There is nothing of this kind to take out.';
      this.account.rows.delete(key);
      this.count(kind, there.campaign, there.group, -1);
      return '';
    }
    if (state !== undefined && state !== words.enabled && state !== words.paused)
      return `“${state}” is no state.`;
    const reason = this.parents(kind, said) || this.refusal(kind, said, there);
    if (reason !== '') return reason;
    const row: AccountRow = {
      kind,
      campaign: said.campaign ?? '',
      group: said.group ?? '',
      said: said as Record<string, string>,
    };
    if (!there) this.count(kind, row.campaign, row.group, 1);
    this.account.rows.set(key, row);
    return '';
  }

  private keyOf(kind: RowKind, said: Said): string {
    const of: Record<RowKind, (keyof Said)[]> = {
      campaign: ['campaign'],
      group: ['campaign', 'group'],
      keyword: ['campaign', 'group', 'keyword', 'keyword-notation', 'match-type'],
      negative: ['campaign', 'group', 'keyword', 'keyword-notation', 'match-type'],
      ad: Object.keys(said)
        .filter((value) => /^(campaign|group|ad-form|headline|description|path|final)/.test(value))
        .sort() as (keyof Said)[],
      asset: [
        'campaign',
        'group',
        'asset-kind',
        'asset-text',
        'asset-line1',
        'asset-line2',
        'asset-number',
        'final-url',
      ],
    };
    return JSON.stringify([kind, ...of[kind].map((value) => [value, said[value] ?? ''])]);
  }

  private parents(kind: RowKind, { campaign = '', group = '' }: Said): string {
    const has = (parent: RowKind, said: Said) => this.account.rows.has(this.keyOf(parent, said));
    if (kind === 'campaign' || (kind === 'asset' && campaign === '')) return '';
    if (!has('campaign', { campaign })) return `There is no campaign “${campaign}”.`;
    if (kind === 'group' || group === '')
      return kind === 'keyword' || kind === 'ad' ? 'An ad group is missing.' : '';
    return has('group', { campaign, group }) ? '' : `There is no ad group “${group}” in “${campaign}”.`;
  }

  private refusal(kind: RowKind, said: Said, there: AccountRow | undefined): string {
    switch (kind) {
      case 'campaign':
        return this.campaign(said, there);
      case 'group':
        return this.name(said.group ?? '', this.outlet.limits.groupName) || this.bids(said, true);
      case 'keyword':
      case 'negative':
        return this.keyword(kind, said, there !== undefined);
      case 'ad':
        return this.ad(said);
      case 'asset':
        return this.asset(said);
    }
  }

  private name(name: string, limit: number): string {
    if (name.trim() === '') return 'A name is missing.';
    return textLength(name) > limit
      ? `The name has ${textLength(name)} characters; ${limit} are allowed.`
      : '';
  }

  private campaign(said: Said, there: AccountRow | undefined): string {
    const { budget, limits } = this.outlet;
    const named = this.name(said.campaign ?? '', limits.campaignName);
    if (named) return named;
    const money = said['daily-budget'] ?? '';
    const amount = this.amount(money);
    if (amount === null || amount === 0) return `“${money}” is no daily budget.`;
    if (budget.least !== null && amount < budget.least)
      return `The daily budget ${money} is under the least.`;
    if (said.locations === '') return 'The campaign has no place: it would be shown everywhere.';
    if (said.languages === '') return 'The campaign has no language.';
    if (
      'match-setting' in said &&
      !Object.values(this.outlet.words.matchSettings).includes(said['match-setting'] ?? '')
    )
      return `“${said['match-setting']}” is no setting of how keywords match.`;
    const before = there?.said['daily-budget'];
    if (before === undefined || before === money || budget.changesPerDay === null) return '';
    if (this.account.budgetChanges >= budget.changesPerDay)
      return `${budget.changesPerDay} budgets were changed today: no more before tomorrow.`;
    this.account.budgetChanges++;
    return '';
  }

  private bids(said: Said, mayMiss: boolean): string {
    const columns = (['bid', 'bid-search', 'bid-partners', 'bid-display'] as const).filter(
      (value) => value in said,
    );
    const typed = columns.map((value) => said[value] ?? '').filter((text) => text !== '');
    if (columns.length > 0 && typed.length === 0 && !mayMiss) return 'A bid is missing.';
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

  private keyword(kind: 'keyword' | 'negative', said: Said, isThere: boolean): string {
    const { limits, words, matchTypes, negativeTypes, match } = this.outlet;
    const typed = said['keyword-notation'] ?? said.keyword ?? '';
    const bare = 'keyword-notation' in said ? this.bare(kind, typed) : typed;
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
      'match-type' in said &&
      !known.some((type) => words.matchTypes[type] === said['match-type'])
    )
      return `“${said['match-type']}” is no match type of ${kind === 'keyword' ? 'a keyword' : 'a negative'} here.`;
    const counts = this.inGroup.get(placeOf(said.campaign ?? '', said.group ?? ''));
    if (!isThere && kind === 'keyword' && (counts?.rows ?? 0) >= limits.rowsPerGroup)
      return `An ad group may have ${limits.rowsPerGroup} keywords.`;
    if (!isThere && kind === 'negative' && (counts?.negatives ?? 0) >= limits.negativesPerGroup)
      return `${limits.negativesPerGroup} negatives may stand in one place.`;
    return kind === 'keyword' ? this.bids(said, this.outlet.bids.on === 'group') : '';
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

  private ad(said: Said): string {
    const { ad, words, limits } = this.outlet;
    const forms = ['plain', 'assembled'] as const;
    const form = 'ad-form' in said ? forms.find((one) => words.adForms[one] === said['ad-form']) : forms[0];
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
        if (/!!|\?\?/.test(text)) return `${value} says a mark twice.`;
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

  private asset(said: Said): string {
    const { assetKinds } = this.outlet.words;
    const { sitelink, callout } = this.outlet.ad.assets;
    const text = said['asset-text'] ?? '';
    const over = (cell: string, limit: number) =>
      textLength(cell) > limit ? `“${cell}” has ${textLength(cell)} characters; ${limit} are allowed.` : '';
    switch (said['asset-kind']) {
      case assetKinds.sitelink:
        if (!/^https?:\/\//.test(said['final-url'] ?? '')) return 'A link needs a web address.';
        return (
          over(text, sitelink.text) ||
          over(said['asset-line1'] ?? '', sitelink.line) ||
          over(said['asset-line2'] ?? '', sitelink.line)
        );
      case assetKinds.callout:
        return text === '' ? 'A text is missing.' : over(text, callout.text);
      case assetKinds.phone:
        return /^\+?\d{5,15}$/.test(said['asset-number'] ?? '')
          ? ''
          : `“${said['asset-number']}” is no phone number.`;
      default:
        return `“${said['asset-kind']}” is no kind of extra here.`;
    }
  }

  private count(kind: RowKind, campaign: string, group: string, step: number) {
    if (kind !== 'keyword' && kind !== 'negative') return;
    const place = placeOf(campaign, group);
    const counts = this.inGroup.get(place) ?? { rows: 0, negatives: 0 };
    if (kind === 'keyword') counts.rows += step;
    else counts.negatives += step;
    this.inGroup.set(place, counts);
  }

  private answers(
    verdicts: readonly Verdict[],
    rows: readonly Read[],
    headings: ReadonlyMap<string, string[]>,
  ) {
    const byPlace = new Map(rows.map((row) => [`${row.file}\n${row.line}`, row.cells]));
    const quoted = (cells: readonly string[]) =>
      cells.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(',');
    const files = [...new Set(verdicts.map(({ file }) => file))];
    return files.flatMap((file) => {
      const own = headings.get(file);
      if (!own) return [];
      const lines = verdicts.flatMap(({ file: of, line, reason }) => {
        const cells = of === file && byPlace.get(`${file}\n${line}`);
        return cells ? [quoted([...cells, reason])] : [];
      });
      const name = `answer-${file.replace(/\.[a-z]+$/, '')}.csv`;
      return lines.length === 0
        ? []
        : [{ name, text: `${[quoted([...own, this.outlet.answer.refusal]), ...lines].join('\n')}\n` }];
    });
  }
}

const placeOf = (campaign: string, group: string): string => JSON.stringify([campaign, group]);
