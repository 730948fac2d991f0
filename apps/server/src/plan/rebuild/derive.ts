import { casingList } from '@sprig/contracts';
import { branchOf } from '@sprig/core/ads';
import {
  type BuildKeyword,
  type BuiltGroup,
  bidOfGroup,
  bidOfRow,
  type CampaignFrame,
  type GroupFrame,
  kindOfKey,
  patternOfAd,
  RowBuilder,
} from '@sprig/core/build';
import {
  type AdMarks,
  checkGroup,
  checkPlan,
  type Findings,
  type GroupFinding,
  outletRules,
} from '@sprig/core/findings';
import { NegativeIndex, writeNegative } from '@sprig/core/match';
import { minorUnit } from '@sprig/core/money';
import { type MeasuredOutlet, type Outlet, strictestOf } from '@sprig/core/outlets';
import { AdSteps, type PlanAdRules } from '@sprig/core/plan';
import { incrementOf, type OutletPlace, placeGroups } from '@sprig/core/sheets';
import { hashOf } from '@sprig/core/text';
import { type Address, readSite } from '@sprig/core/write';
import { grouped } from '../../platform/grouped.ts';
import { adRulesOf, checkRulesOf } from './ad-rules.ts';
import { adRow, groupRow, keywordRow, outletGroupRow } from './derived-rows.ts';
import { HashSum } from './hash-sum.ts';
import type { Before, LaidOut } from './lay-out.ts';
import type { Inputs } from './load-inputs.ts';
import type { DerivedRow } from './replace-rows.ts';

/** To be raised where the same inputs make other rows than before. */
const MADE_BY = 5;

export type DerivedPage = {
  groups: DerivedRow[];
  rows: DerivedRow[];
  outletGroups: DerivedRow[];
  ads: DerivedRow[];
  findings: { key: string; list: GroupFinding[] }[];
};

/** Makes all that hangs on the inputs, by core functions in the trail's order. */
export class Deriving {
  readonly builder: RowBuilder;
  readonly places: OutletPlace[];
  /** Of all that each group is made of. */
  readonly madeOf: Float64Array;
  private readonly adRules: PlanAdRules;
  private readonly ads: AdSteps;
  /** What ads are written and measured by: all outlets that the plan ships to. */
  private readonly measure: MeasuredOutlet;
  private readonly measuring: AdSteps;
  /** Whether a pattern is for some outlets only. */
  private readonly isLimited: boolean;

  constructor(
    private readonly inputs: Inputs,
    private readonly keywords: readonly BuildKeyword[],
    private readonly outlet: Outlet,
    readonly laid: LaidOut,
    campaignPartOf: Before['campaignPartOf'],
  ) {
    this.adRules = adRulesOf(inputs);
    const checked = checkRulesOf(inputs, this.adRules.writing);
    this.ads = new AdSteps(this.adRules, checked, outlet);
    const [first = outlet, ...others] = inputs.outlets;
    this.measure = strictestOf([first, ...others]);
    this.measuring = this.measure === outlet ? this.ads : new AdSteps(this.adRules, checked, this.measure);
    this.isLimited = inputs.patterns.some(({ body }) => body.outlets.length > 0);
    this.builder = new RowBuilder(laid.frame);
    const { groups, campaigns } = laid.frame;
    this.madeOf = new Float64Array(groups.length);
    this.places = placeGroups(
      groups.map(({ campaign, name }, at) => {
        const { key, name: campaignName } = campaigns[campaign] as CampaignFrame;
        return { campaign: key, campaignName, name, rows: laid.rowCounts[at] as number };
      }),
      outlet,
      (at) => campaignPartOf((groups[at] as GroupFrame).key),
    );
    this.finishHashes();
  }

  /** Adds to each group's hash what else it is made of. */
  private finishHashes() {
    const { brief, facts, layout, patterns, address, refused } = this.inputs;
    const { common: said, themes, held } = this.adRules;
    const parentOf = (theme: number) => themes.get(theme)?.parent ?? null;
    const { floor, ceiling } = layout.ladder;
    const common = hashOf(
      JSON.stringify([
        MADE_BY,
        this.outlet,
        this.measure === this.outlet
          ? 0
          : [
              this.measure.key,
              this.measure.ad,
              this.measure.limits,
              this.measure.members?.map(({ ad }) => ad),
            ],
        patterns,
        address,
        said.offer,
        said.year,
        refused,
        facts.brands,
        facts.rivals,
        facts.places,
        brief.currency,
        brief.language,
        brief.site,
        casingList(facts),
        facts.functionWords,
        floor,
        ceiling,
        layout.marks,
      ]),
    );
    this.laid.frame.groups.forEach((frame, at) => {
      const theme = themes.get(frame.theme);
      const own = hashOf(
        JSON.stringify([
          this.builder.group(frame),
          this.places[at],
          theme?.name,
          theme?.branch,
          branchOf(frame.theme, parentOf),
          held.ofGroup(frame.key),
          held.pathOf(this.laid.frame.campaigns[frame.campaign]?.key ?? ''),
        ]),
      );
      this.madeOf[at] = new HashSum()
        .add(this.laid.rowHashes[at] as number)
        .add(own)
        .add(common).hash;
    });
  }

  /** The rows of every derived table of some groups, by their places in the frame. */
  page(places: readonly number[]): DerivedPage {
    const { brief, layout } = this.inputs;
    const frames = places.map((at) => this.laid.frame.groups[at] as GroupFrame);
    const groups = frames.map((frame) => this.builder.group(frame));
    const unit = minorUnit(brief.currency);
    const increment = incrementOf(this.outlet, brief.currency);
    const page: DerivedPage = { groups: [], rows: [], outletGroups: [], ads: [], findings: [] };
    frames.forEach((frame, n) => {
      const group = groups[n] as BuiltGroup;
      const at = places[n] as number;
      const rows = this.builder.rows(frame);
      const place = this.places[at] as OutletPlace;
      const list = checkGroup({ group, rows, place }, this.outlet);
      const said = { ...group, campaignKey: group.campaign };
      const ruleUrls = this.ads.keywordAddresses(
        said,
        rows.map(({ text }) => text),
      );
      const urls = rows.flatMap(({ text, heldUrl }): Address[] => {
        if (heldUrl !== null) return [readSite(heldUrl)];
        const rule = ruleUrls?.get(text);
        return rule ? [rule] : [];
      });
      if (urls.length > 0) list.push(...this.ads.checkedAddresses(urls));
      if (group.ads) {
        const norms = frame.members.map((member) => this.keywords[member]?.norm ?? '');
        const ads = this.ads.written(said);
        const checked = this.ads.checked(said, ads, norms);
        const isSame = this.measuring === this.ads;
        const own = isSame ? ads : this.measuring.written(said);
        const measured = isSame ? checked : this.measuring.checked(said, own, norms);
        list.push(...this.told(checked.findings, measured.findings));
        own.forEach((ad, nth) => {
          page.ads.push(adRow(ad, group.position, this.measure.ad, measured.marks[nth] as AdMarks));
        });
      }
      if (list.length > 0) page.findings.push({ key: group.key, list });
      page.groups.push(groupRow(group, rows.length, list, this.madeOf[at] as number));
      rows.forEach((row) => {
        const rule = ruleUrls?.get(row.text);
        const ruleUrl = rule?.status === 'address' ? rule.href : null;
        page.rows.push(keywordRow(row, bidOfRow(row, layout.ladder, unit), ruleUrl));
      });
      page.outletGroups.push(outletGroupRow(group, place, bidOfGroup(group, layout.ladder, increment)));
    });
    return page;
  }

  /** Where a pattern is for some outlets only, what hangs on none is found in the ads of all of them. */
  private told(own: readonly GroupFinding[], ofAll: readonly GroupFinding[]): readonly GroupFinding[] {
    if (!this.isLimited || own === ofAll) return own;
    return [
      ...own.filter(({ rule }) => outletRules.has(rule)),
      ...ofAll.filter(({ rule }) => !outletRules.has(rule)),
    ];
  }

  orphans(): number {
    const patterns = new Set(this.inputs.patterns.map(({ id }) => id));
    const isMade = (key: string) =>
      this.laid.frame.makes(key) && (kindOfKey(key) !== 'ad' || patterns.has(patternOfAd(key)));
    return this.inputs.holds.filter(({ rowKey }) => !isMade(rowKey)).length;
  }

  /** What the plan as a whole has, beside what its groups have. */
  planFindings(found: Findings): void {
    const { brief, layout, startHigh } = { ...this.inputs, ...this.inputs.layout };
    checkPlan(found, {
      groups: this.laid.frame.groups.length,
      rows: this.laid.rows,
      campaignName: layout.campaignName,
      site: brief.site,
      orphans: this.orphans(),
      conflicts: this.conflicts(),
      bare: this.bare(),
      mute: this.mute(),
      named: [
        ...this.laid.frame.campaigns.map(({ name }) => ({ rule: 'marker-in-name' as const, text: name })),
        ...this.inputs.extraTexts.map((text) => ({ rule: 'marker-in-extra' as const, text })),
      ],
    });
    for (const { key, text } of this.laid.cheaper) found.add('narrower-bids-less', { key, text });
    const themed = new Set(this.keywords.map(({ theme }) => theme));
    const parents = new Set(this.inputs.themes.map(({ parent }) => parent));
    for (const { id, name, idea } of this.inputs.themes)
      if (!idea && !themed.has(id) && !parents.has(id))
        found.add('theme-without-keywords', { key: String(id), text: name });
    if (startHigh.on) found.add('bids-start-high', { text: startHigh.until ?? '', count: this.laid.rows });
  }

  /** Campaigns for which no extra is shown, neither of the plan nor their own. */
  private bare(): { key: string; name: string }[] {
    const { extrasAt } = this.inputs;
    if (extrasAt.has('plan')) return [];
    return this.laid.frame.campaigns
      .filter(({ key }) => !extrasAt.has(key))
      .map(({ key, name }) => ({ key, name }));
  }

  /** Ad groups that show no phone number, neither of the plan nor of their campaign or their own, where calls are the goal. */
  private mute(): { key: string; name: string }[] {
    const { facts, phonesAt } = this.inputs;
    if (facts.goal !== 'calls' || phonesAt.has('plan')) return [];
    const { groups, campaigns } = this.laid.frame;
    return groups
      .filter(({ key, campaign }) => !phonesAt.has(key) && !phonesAt.has(campaigns[campaign]?.key ?? ''))
      .map(({ key, name }) => ({ key, name }));
  }

  /** Negatives by hand that block keywords of theirs: of the plan, of a campaign, of an ad group. */
  private conflicts(): { text: string; blocked: number }[] {
    const { negatives, placedNegatives, listedNegatives } = this.inputs;
    const blocked = new Map<string, number>();
    const check = (index: NegativeIndex, texts: ReadonlyMap<number, string>, norms: Iterable<string>) => {
      for (const norm of norms)
        if (index.blocking(norm) !== undefined)
          for (const id of index.allBlocking(norm)) {
            const text = texts.get(id) ?? '';
            blocked.set(text, (blocked.get(text) ?? 0) + 1);
          }
    };
    const textsOf = (list: readonly (typeof negatives)[number][]) =>
      new Map(list.map(({ id, norm, type }) => [id, writeNegative(norm, type)]));
    if (negatives.length > 0)
      check(
        new NegativeIndex(negatives),
        textsOf(negatives),
        this.keywords.map(({ norm }) => norm),
      );
    for (const [place, list] of grouped(placedNegatives, (one) => one.place))
      check(
        new NegativeIndex(list),
        textsOf(list),
        this.normsAt((group) => group === place, place),
      );
    for (const negative of listedNegatives)
      for (const campaign of negative.campaigns)
        check(
          new NegativeIndex([negative]),
          textsOf([negative]),
          this.normsAt(() => false, campaign),
        );
    return [...blocked].map(([text, count]) => ({ text, blocked: count }));
  }

  private normsAt(isGroup: (key: string) => boolean, place: string): string[] {
    const { groups, campaigns } = this.laid.frame;
    return groups
      .filter(({ key, campaign }) => isGroup(key) || campaigns[campaign]?.key === place)
      .flatMap(({ members }) => members.map((at) => this.keywords[at]?.norm ?? ''));
  }
}
