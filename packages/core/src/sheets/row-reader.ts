import { type MatchType, matchTypes, readNotation } from '../match/index.ts';
import { asMicros, type Micros, microsFromDecimal } from '../money/index.ts';
import {
  type CampaignSettings,
  type CellValue,
  type Outlet,
  type RowKind,
  rowKinds,
  type SheetProfile,
  settingValues,
} from '../outlets/index.ts';
import { tidy } from '../text/index.ts';
import {
  type AdField,
  type AdForm,
  type AssetBody,
  type AssetKind,
  adFields,
  assetKinds,
  isAdField,
  type Kept,
} from '../write/index.ts';
import type { MatchSetting, NetworkBids, RowStatus, SheetRow } from './sheet-rows.ts';

export const sheetProblems = [
  'no-heading',
  'column-missing',
  'column-twice',
  'other-sheet',
  'broken-row',
  'row-kind',
  'no-campaign',
  'no-group',
  'no-keyword',
  'amount',
  'match-type',
  'status',
  'match-setting',
  'ad-form',
  'no-ad-text',
  'asset-kind',
  'kept',
] as const;
export type SheetProblem = {
  line: number;
  code: (typeof sheetProblems)[number];
  /** The heading of the column. */
  column: string;
  text: string;
};

/** Words for states that are understood whatever an outlet's own are. */
const COMMON_STATES: Record<string, RowStatus> = {
  enabled: 'enabled',
  active: 'enabled',
  on: 'enabled',
  paused: 'paused',
  off: 'paused',
  removed: 'removed',
  deleted: 'removed',
};
const COMMON_TYPES: Record<string, MatchType> = {
  broad: 'broad',
  'broad match': 'broad',
  'modified broad': 'modified',
  phrase: 'phrase',
  'phrase match': 'phrase',
  exact: 'exact',
  'exact match': 'exact',
};

/** `Negative exact`, `Campaign negative broad`: where negatives stand among keywords. */
const NEGATIVE_TYPE = /^\s*(campaign\s+)?negative\s+/i;

/** Reads the rows of one sheet, field by field; what can't be read is told in `problems`, and the row left out. */
export class RowReader {
  private readonly states = new Map<string, RowStatus>();
  private readonly types = new Map<string, MatchType>();
  private readonly kinds = new Map<string, RowKind>();
  private readonly notations: { type: MatchType; before: string; after: string }[];
  private fields: readonly string[] = [];
  private line = 0;
  private isBad = false;

  constructor(
    private readonly profile: SheetProfile,
    private readonly places: ReadonlyMap<CellValue, number>,
    private readonly outlet: Outlet,
    private readonly decimals: number,
    private readonly problems: SheetProblem[],
  ) {
    const { words } = outlet;
    for (const [word, state] of Object.entries(COMMON_STATES)) this.states.set(word, state);
    for (const state of ['removed', 'paused', 'enabled'] as const)
      this.states.set(words[state].toLowerCase(), state);
    for (const [word, type] of Object.entries(COMMON_TYPES)) this.types.set(word, type);
    for (const type of outlet.matchTypes.toReversed())
      this.types.set(words.matchTypes[type].toLowerCase(), type);
    for (const type of outlet.negativeTypes) {
      const word = words.matchTypes[type].toLowerCase();
      if (!this.types.has(word)) this.types.set(word, type);
    }
    for (const kind of rowKinds) this.kinds.set(words.rowKinds[kind].toLowerCase(), kind);
    const known = new Set([...outlet.matchTypes, ...outlet.negativeTypes]);
    this.notations = matchTypes
      .filter((type) => type !== 'modified' && known.has(type))
      .map((type) => ({ type, ...aroundText(words.notation[type]) }))
      .sort((a, b) => b.before.length + b.after.length - (a.before.length + a.after.length));
  }

  read(line: number, fields: readonly string[]): SheetRow | null {
    this.line = line;
    this.fields = fields;
    this.isBad = false;
    const row = this.row(this.kindOf());
    return this.isBad ? null : row;
  }

  private cell(value: CellValue): string {
    const at = this.places.get(value);
    return at === undefined ? '' : (this.fields[at] ?? '');
  }

  private say(code: SheetProblem['code'], value: CellValue, text: string) {
    const column = this.profile.columns.find((one) => one.value === value)?.heading ?? '';
    this.problems.push({ line: this.line, code, column, text: text.slice(0, 200) });
    this.isBad = true;
  }

  private kindOf(): RowKind | null {
    if (this.profile.kind !== 'combined') return this.profile.kind.slice(0, -1) as RowKind;
    if (this.places.has('row-kind')) {
      const word = this.cell('row-kind').trim();
      const kind = this.kinds.get(word.toLowerCase());
      if (kind) return kind;
      this.say('row-kind', 'row-kind', word);
      return null;
    }
    if (this.cell('asset-kind') !== '') return 'asset';
    if (this.cell('keyword') + this.cell('keyword-notation') !== '')
      return NEGATIVE_TYPE.test(this.cell('match-type')) ? 'negative' : 'keyword';
    if (adFields.some((field) => this.cell(field) !== '')) return 'ad';
    return this.cell('group') === '' ? 'campaign' : 'group';
  }

  private row(kind: RowKind | null): SheetRow | null {
    const campaign = this.cell('campaign');
    const group = this.cell('group');
    if (kind === null) return null;
    if (campaign.trim() === '' && kind !== 'asset') this.say('no-campaign', 'campaign', '');
    if (group.trim() === '' && (kind === 'group' || kind === 'keyword' || kind === 'ad'))
      this.say('no-group', 'group', '');
    const status = this.status();
    const labels = this.labels();
    switch (kind) {
      case 'campaign':
        return {
          kind,
          campaign,
          dailyBudget: this.amount('daily-budget'),
          matchSetting: this.matchSetting(),
          settings: Object.fromEntries(
            settingValues.map((value) => [value, this.cell(value)]),
          ) as CampaignSettings,
          labels,
          status,
        };
      case 'group':
        return { kind, campaign, group, ...this.bids(), labels, status };
      case 'keyword': {
        if (this.isNegative()) return this.negative(campaign, group, status);
        const { text, type, marks } = this.keyword(false);
        return { kind, campaign, group, text, type, marks, ...this.bids(), labels, status };
      }
      case 'negative':
        return this.negative(campaign, group, status);
      case 'ad':
        return this.ad(campaign, group, labels, status);
      case 'asset':
        return this.asset(campaign, group, status);
    }
  }

  /** A column of keywords in notation may hold negatives, too. */
  private isNegative(): boolean {
    const { before } = aroundText(this.outlet.words.negative);
    return before !== '' && this.cell('keyword-notation').startsWith(before);
  }

  private negative(campaign: string, group: string, status: RowStatus): SheetRow {
    const { text, type } = this.keyword(true);
    return { kind: 'negative', campaign, group, text, type, status };
  }

  private status(): RowStatus {
    const word = this.cell('status').trim();
    if (word === '') return 'enabled';
    const status = this.states.get(word.toLowerCase());
    if (status) return status;
    this.say('status', 'status', word);
    return 'enabled';
  }

  private matchSetting(): MatchSetting | null {
    const word = this.cell('match-setting').trim().toLowerCase();
    if (word === '') return null;
    const { close, wide } = this.outlet.words.matchSettings;
    if (word === close.toLowerCase()) return 'close';
    if (word === wide.toLowerCase()) return 'wide';
    this.say('match-setting', 'match-setting', word);
    return null;
  }

  private labels(): string[] {
    return this.cell('labels')
      .split(',')
      .map((label) => label.trim())
      .filter((label) => label !== '');
  }

  /** Signs of a currency and marks between thousands are left out; what is no amount above 0 is told. */
  private amount(value: CellValue): Micros | null {
    const typed = this.cell(value).trim();
    if (typed === '') return null;
    const { mark, unit } = this.outlet.money;
    const other = mark === '.' ? ',' : '.';
    const bare = typed.replace(/[\p{Sc}\s]/gu, '');
    const isGrouped = new RegExp(`^\\d{1,3}(\\${other}\\d{3})+(\\${mark}\\d+)?$`).test(bare);
    const text = (isGrouped ? bare.replaceAll(other, '') : bare).replace(mark, '.');
    const amount = microsFromDecimal(text);
    if (amount === undefined) {
      this.say('amount', value, typed);
      return null;
    }
    return unit === 'major' ? amount : asMicros(Math.round(amount / 10 ** this.decimals));
  }

  private bids(): { bid: Micros | null; bids: NetworkBids | null } {
    if (!this.outlet.bids.perNetwork) return { bid: this.amount('bid'), bids: null };
    const bids: NetworkBids = {};
    for (const name of ['search', 'partners', 'display'] as const) {
      const bid = this.amount(`bid-${name}`);
      if (bid !== null) bids[name] = bid;
    }
    const bid = bids.search ?? bids.partners ?? bids.display ?? null;
    return { bid, bids: bid === null ? null : bids };
  }

  private keyword(isNegative: boolean): { text: string; type: MatchType; marks: number[] } {
    const inNotation = this.places.has('keyword-notation') && !this.places.has('keyword');
    const value = inNotation ? 'keyword-notation' : 'keyword';
    const typed = this.cell(value);
    if (typed.trim() === '') this.say('no-keyword', value, '');
    if (inNotation) return this.fromNotation(typed, isNegative);
    const usual: MatchType = isNegative
      ? (this.outlet.negativeTypes[0] ?? 'exact')
      : this.outlet.match === 'setting'
        ? 'exact'
        : 'broad';
    const type = this.places.has('match-type') ? this.matchType(usual) : usual;
    return type === 'modified' ? marked(typed) : { text: typed, type, marks: [] };
  }

  private matchType(usual: MatchType): MatchType {
    const word = this.cell('match-type').trim();
    if (word === '') return usual;
    const type =
      this.types.get(word.toLowerCase()) ?? this.types.get(word.replace(NEGATIVE_TYPE, '').toLowerCase());
    if (type) return type;
    this.say('match-type', 'match-type', word);
    return usual;
  }

  private fromNotation(
    typed: string,
    isNegative: boolean,
  ): { text: string; type: MatchType; marks: number[] } {
    let text = typed;
    if (isNegative) {
      const { before, after } = aroundText(this.outlet.words.negative);
      if (text.startsWith(before) && text.endsWith(after))
        text = text.slice(before.length, text.length - after.length);
    }
    if (/(^|\s)\+\S/.test(text)) return marked(text);
    for (const { type, before, after } of this.notations)
      if (text.length > before.length + after.length && text.startsWith(before) && text.endsWith(after))
        return { text: text.slice(before.length, text.length - after.length), type, marks: [] };
    return { text, type: 'broad', marks: [] };
  }

  private ad(campaign: string, group: string, labels: string[], status: RowStatus): SheetRow {
    const texts: Partial<Record<AdField, string>> = {};
    for (const field of adFields) {
      const text = this.cell(field);
      if (text !== '') texts[field] = text;
    }
    if (Object.keys(texts).length === 0) this.say('no-ad-text', 'headline1', '');
    return {
      kind: 'ad',
      campaign,
      group,
      form: this.form(),
      texts,
      kept: this.kept(),
      finalUrl: this.cell('final-url'),
      mobileUrl: this.cell('mobile-url'),
      labels,
      status,
    };
  }

  private form(): AdForm {
    const { ad, words } = this.outlet;
    const word = this.cell('ad-form').trim().toLowerCase();
    if (word === '') return ad.plain ? 'plain' : 'assembled';
    for (const form of ['plain', 'assembled'] as const)
      if (word === words.adForms[form].toLowerCase()) return form;
    this.say('ad-form', 'ad-form', word);
    return 'plain';
  }

  private kept(): Kept {
    const kept: Kept = {};
    for (const part of this.cell('kept').split(';')) {
      if (part.trim() === '') continue;
      const [, field = '', place = ''] = /^\s*(\w+)\s*:\s*(\d)\s*$/.exec(part) ?? [];
      if (isAdField(field)) kept[field] = Number(place);
      else this.say('kept', 'kept', part);
    }
    return kept;
  }

  private asset(campaign: string, group: string, status: RowStatus): SheetRow {
    const word = this.cell('asset-kind').trim();
    const { assetKinds: own } = this.outlet.words;
    const kind = assetKinds.find((one) => own[one].toLowerCase() === word.toLowerCase());
    if (!kind) this.say('asset-kind', 'asset-kind', word);
    return { kind: 'asset', campaign, group, asset: this.assetBody(kind ?? 'callout'), status };
  }

  private assetBody(kind: AssetKind): AssetBody {
    const text = this.cell('asset-text');
    if (kind === 'callout') return { kind, text };
    if (kind === 'phone') return { kind, number: this.cell('asset-number') };
    return {
      kind,
      text,
      line1: this.cell('asset-line1'),
      line2: this.cell('asset-line2'),
      address: this.cell('final-url'),
    };
  }
}

/** What stands before and behind the `@` of a notation. */
function aroundText(notation: string): { before: string; after: string } {
  const at = notation.indexOf('@');
  return { before: notation.slice(0, at), after: notation.slice(at + 1) };
}

function marked(typed: string): { text: string; type: MatchType; marks: number[] } {
  const noted = readNotation(typed);
  if (noted.status === 'read') return { text: noted.text, type: 'modified', marks: noted.marks };
  return { text: tidy(typed.replaceAll('+', ' ')), type: 'modified', marks: [] };
}
