import { type AdWriter, type TokenGroup, unfilledOfAd, type WrittenAd } from '../ads/index.ts';
import { type MeasuredOutlet, membersOf, type Outlet } from '../outlets/index.ts';
import { lengthOf, markerInAddress, normalise } from '../text/index.ts';
import {
  type Address,
  type AdField,
  adFields,
  alikeHeadlines,
  checkText,
  type EditorialProblem,
  type EditorialWords,
  isOnSite,
  limitsOf,
  type Relevance,
  RelevanceReader,
  type TextRules,
  textOf,
  thriceRead,
} from '../write/index.ts';
import type { FindingRule, GroupFinding } from './findings.ts';
import { type GroupPlaces, type PlaceNames, placesOfGroup } from './place-names.ts';

/** A text that was refused once, by one outlet or (null) by editors of any: it is warned about wherever it stands there. */
export type RefusedText = { text: string; reason: string; outlet?: string | null | undefined };

export type AdCheckInput = {
  outlet: MeasuredOutlet;
  /** The plan's own site. */
  site: Address;
  words: EditorialWords;
  /** Those that the client serves. */
  places: PlaceNames;
  refused: readonly RefusedText[];
  writing: TextRules;
};

/** What one ad has against it, field by field. */
export type AdProblem =
  | ({ field: AdField } & EditorialProblem)
  | {
      field: AdField | 'finalUrl';
      rule: AddressRuleName | 'refused-before' | 'other-place';
      found: string;
      fix: string | null;
    };
export type AddressRuleName =
  | 'address-not-https'
  | 'address-other-site'
  | 'address-too-long'
  | 'address-word-not-allowed'
  | 'address-marker-left';

/** An ad that says less of its keywords than this is hardly about them. */
const LOW = 0.3;

/** What is told of an ad beside what it says: relevance from 0 to 1, and how much is objected to. */
export type AdMarks = { relevance: number; problems: number };
/** `marks` in the order of the ads. */
export type CheckedAds = { findings: GroupFinding[]; marks: AdMarks[] };

/** Checks ads one by one and group by group. */
export class AdChecks {
  readonly reader: RelevanceReader;
  private readonly refused: Map<string, string>;

  constructor(private readonly input: AdCheckInput) {
    this.reader = new RelevanceReader(input.writing.pack);
    const here = new Set(membersOf(input.outlet).map(({ key }) => key));
    this.refused = new Map(
      input.refused
        .filter(({ outlet = null }) => outlet === null || here.has(outlet))
        .map(({ text, reason }) => [normalise(text), reason]),
    );
  }

  /** Editorial problems, refused texts, and what is wrong with the address. */
  problems({ fields, address }: WrittenAd): AdProblem[] {
    const problems: AdProblem[] = [];
    for (const field of adFields) {
      const fit = fields[field];
      if (fit?.status !== 'fits') continue;
      for (const problem of checkText(fit.text, field, this.input.words))
        problems.push({ field, ...problem });
      const reason = this.refused.size > 0 ? this.refused.get(normalise(fit.text)) : undefined;
      if (reason !== undefined) problems.push({ field, rule: 'refused-before', found: reason, fix: null });
    }
    if (address.final.status === 'address')
      this.checkAddress(address.final, (problem) => problems.push(problem));
    return problems;
  }

  /** What is wrong with where keywords lead by themselves. */
  addresses(addresses: readonly Address[]): GroupFinding[] {
    const problems: { rule: FindingRule; found: string }[] = [];
    const found = new Map<FindingRule, GroupFinding>();
    for (const address of addresses)
      if (address.status === 'address') this.checkAddress(address, (problem) => problems.push(problem));
      else problems.push({ rule: 'address-unfilled', found: '' });
    for (const { rule, found: text } of problems) {
      const there = found.get(rule);
      if (there) there.count++;
      else found.set(rule, { rule, field: 'finalUrl', count: 1, text });
    }
    return [...found.values()];
  }

  private checkAddress(
    { href, host }: Extract<Address, { status: 'address' }>,
    tell: (problem: AdProblem) => void,
  ) {
    const { outlet, site, words } = this.input;
    const add = (rule: AddressRuleName, found: string, fix: string | null = null) =>
      tell({ field: 'finalUrl', rule, found, fix });
    if (lengthOf(href) > outlet.limits.finalUrl) add('address-too-long', href);
    if (!href.startsWith('https:')) add('address-not-https', href, href.replace(/^http:/, 'https:'));
    if (site.status === 'address' && !isOnSite(host, site.host)) add('address-other-site', host);
    const banned = words.banned.inAddress(href);
    if (banned !== null) add('address-word-not-allowed', banned);
    const marker = markerInAddress(href);
    if (marker !== null) add('address-marker-left', marker);
  }

  /** What stands against an ad of a group with these keywords: also whether it names another place than theirs. */
  problemsOf(ad: WrittenAd, group: TokenGroup, norms: readonly string[]): AdProblem[] {
    return [...this.problems(ad), ...this.otherPlaces(ad, this.placesOf(group, norms))];
  }

  relevance(ad: WrittenAd, norms: readonly string[]): Relevance {
    return this.reader.of(norms, ad.fields);
  }

  /** What a group's ads add to its findings, and what is told of each ad. `norms` are its keywords. */
  group(
    ads: readonly WrittenAd[],
    group: TokenGroup,
    norms: readonly string[],
    writer: AdWriter,
  ): CheckedAds {
    const found = new Map<string, GroupFinding>();
    const add = (rule: FindingRule, text: string, field: GroupFinding['field'] = null, count = 1) => {
      const id = `${rule}:${field ?? ''}`;
      const there = found.get(id);
      if (there) there.count += count;
      else found.set(id, { rule, field, count, text });
    };
    const marks: AdMarks[] = [];
    const named = this.placesOf(group, norms);
    for (const stray of named?.strays ?? []) add('other-place-in-keyword', stray);
    if (ads.length === 0) add('no-ad', group.name);
    else checkCounts(ads, group, this.input.outlet.advised, add);
    for (const ad of ads) {
      this.checkFields(ad, group, add);
      const problems = [...this.problems(ad), ...this.otherPlaces(ad, named)];
      for (const { rule, field, found: text } of problems) add(rule, text, field);
      this.checkAssembled(ad, group, add);
      const score = this.reader.score(norms, ad.fields);
      if (norms.length > 0 && score < LOW) add('relevance-low', group.name);
      marks.push({ relevance: score, problems: problems.length });
      this.checkLive(ad, group, norms, writer, add);
    }
    return { findings: [...found.values()], marks };
  }

  private placesOf({ place }: TokenGroup, norms: readonly string[]): GroupPlaces | null {
    const { places } = this.input;
    return place && places.areSeveral ? placesOfGroup(place, norms, places) : null;
  }

  /** Texts of an ad that name another place than the keywords of its group do. */
  private otherPlaces({ fields }: WrittenAd, group: GroupPlaces | null): AdProblem[] {
    if (!group) return [];
    return adFields.flatMap((field) => {
      const fit = fields[field];
      if (fit?.status !== 'fits') return [];
      const other = this.input.places.in(fit.text).find((place) => !group.named.has(place));
      return other === undefined ? [] : [{ field, rule: 'other-place' as const, found: other, fix: null }];
    });
  }

  private checkFields(ad: WrittenAd, { name }: TokenGroup, add: Add) {
    const form = this.input.outlet.ad[ad.form];
    const limits = form ? limitsOf(form) : {};
    for (const field of unfilledOfAd(ad)) {
      if (field === 'finalUrl') add('address-unfilled', name, field);
      else
        add(
          ad.form === 'assembled' && !limits[field]?.required ? 'field-left-out' : 'field-unfilled',
          name,
          field,
        );
    }
  }

  private checkAssembled(ad: WrittenAd, { name }: TokenGroup, add: Add) {
    const form = this.input.outlet.ad.assembled;
    if (ad.form !== 'assembled' || !form) return;
    for (const [first, second] of alikeHeadlines(ad.fields, this.reader))
      add('headlines-alike', `${textOf(ad.fields[first])} / ${textOf(ad.fields[second])}`);
    if (thriceRead(ad.fields, ad.kept, form, this.reader).length > 0) add('word-thrice', name);
  }

  private checkLive(ad: WrittenAd, group: TokenGroup, norms: readonly string[], writer: AdWriter, add: Add) {
    const live = adFields.filter((field) => {
      const fit = ad.fields[field];
      return fit?.status === 'fits' && fit.live.length > 0;
    });
    if (live.length === 0) return;
    if (norms.length === 1) return add('live-one-keyword', group.name, live[0] ?? null);
    for (const check of writer.insertion(ad, group, norms, this.input.words)) {
      if (check.banned > 0)
        add('live-word-not-allowed', check.worst[0]?.text ?? '', check.field, check.banned);
      if (check.objections > check.banned)
        add('live-objection', check.worst[0]?.text ?? '', check.field, check.objections - check.banned);
      if (check.fallsBack > 0) add('live-falls-back', check.shown, check.field, check.fallsBack);
    }
  }
}

type Add = (rule: FindingRule, text: string, field?: GroupFinding['field'], count?: number) => void;

function checkCounts(ads: readonly WrittenAd[], { name }: TokenGroup, advised: Outlet['advised'], add: Add) {
  const plain = ads.filter(({ form }) => form === 'plain').length;
  const assembled = ads.length - plain;
  if (assembled === 0 && plain < advised.plain.least) add('few-ads', name);
  if (plain > advised.plain.most || assembled > advised.assembled.most) add('many-ads', name);
}
