import {
  AnswerIndex,
  type MatchType,
  NegativeIndex,
  type NegativeKeyword,
  synonymsOf,
  trySearch,
} from '@sprig/core/match';
import { asMicros } from '@sprig/core/money';
import { languagePack, seeded } from '@sprig/core/text';
import { randomBinomial, randomPoisson } from 'd3-random';
import { noiseOf } from '../noise.ts';
import type { Advertiser } from './advertiser.ts';
import { type Causes, causesOf } from './causes.ts';
import { type Searched, searchesFor } from './searches.ts';

/** How often something is searched in a month, and its usual CPC in millionths: the plan's own figures. */
export type Demand = { text: string; searches: number; cpc: number };

/** What happened on one day with one search, answered by one row and shown in one ad; amounts in millionths. */
export type Cell = {
  row: number;
  term: string;
  ad: number;
  network: 'search' | 'partners';
  impressions: number;
  clicks: number;
  cost: number;
  /** Mean, 1 is the top. */
  position: number;
  /** After how many days each conversion is told. */
  delays: number[];
  /** Of each conversion. */
  worth: number;
  /** Searches that it could have been shown for, and those it missed by budget and by rank. */
  eligible: number;
  lostBudget: number;
  lostRank: number;
};

const WEEKDAYS = [0.97, 1.05, 1.08, 1.05, 1, 0.95, 0.9];
const DAYS_A_MONTH = 30.4;
const MATCHED: Record<MatchType, number> = { exact: 1.25, phrase: 1, modified: 0.9, broad: 0.75 };
const TOP_CTR = 0.14;
const FALL = 0.72;
const MOST_CTR = 0.6;
const RATE = 0.035;
const WORTH = 42_000_000;
const USUAL_CPC = 500_000;
const PARTNERS = 0.15;
/** Of conversions that are not told yet, so many come each day, that of the click first. */
const SAME_DAY = 0.35;
const LATEST = 12;

type Auctioned = {
  searched: Searched;
  demand: Demand;
  row: number;
  relevance: number;
};

/** Made-up traffic of an account: the same seed and day give the same cells. */
export class Traffic {
  readonly causes: Causes;
  private readonly answered: Auctioned[];

  /** @param partners whether its engine tells networks apart */
  constructor(
    private readonly advertiser: Advertiser,
    demands: readonly Demand[],
    private readonly seed: number,
    private readonly partners: boolean,
  ) {
    this.causes = causesOf(advertiser, seed);
    this.answered = this.answer(demands);
  }

  /** Which row answers each search that there is, and shows in an ad group with an ad. */
  private answer(demands: readonly Demand[]): Auctioned[] {
    const { rows, groups, negatives } = this.advertiser;
    const pack = languagePack('en');
    const index = new AnswerIndex(
      rows.map(({ text, type, group }) => ({ norm: text, type, owner: group })),
      { pack, synonyms: synonymsOf([], pack) },
    );
    const listed = (kept: (one: (typeof negatives)[number]) => boolean): NegativeIndex | null => {
      const own = negatives
        .filter(kept)
        .map(({ text, type }, id): NegativeKeyword => ({ id, norm: text, type }));
      return own.length > 0 ? new NegativeIndex(own) : null;
    };
    const ofCampaign = this.advertiser.campaigns.map((_, at) =>
      listed(({ campaign, group }) => campaign === at && group === null),
    );
    const inGroups = new Set(negatives.flatMap(({ group }) => (group === null ? [] : [group])));
    const ofGroup = new Map([...inGroups].map((at) => [at, listed(({ group }) => group === at)]));
    const blockOf = (owner: number, search: string): true | undefined => {
      const layers = [ofGroup.get(owner), ofCampaign[groups[owner]?.campaign ?? -1]];
      return layers.some((layer) => layer && layer.blocking(search) !== undefined) ? true : undefined;
    };
    const bidOf = (row: number) => asMicros(Math.round(rows[row]?.bid ?? 0));
    return demands.flatMap((demand) =>
      searchesFor(demand.text).flatMap((searched): Auctioned[] => {
        const [first] = trySearch(index, searched.text, { bidOf, blockOf }).candidates;
        if (!first || first.blockedBy || groups[rows[first.row]?.group ?? -1]?.ads.length === 0) return [];
        const { shared, all } = first.relevance;
        return [{ searched, demand, row: first.row, relevance: all === 0 ? 0 : shared / all }];
      }),
    );
  }

  /** One day, counted from the first of the account. @param weekday 0 is Sunday @param month 0 is January */
  day(nth: number, weekday: number, month: number): Cell[] {
    const random = seeded(Math.floor(noiseOf(`day ${this.seed} ${nth}`) * 2 ** 32));
    const poisson = randomPoisson.source(random);
    const binomial = randomBinomial.source(random);
    const season = 1 + 0.2 * Math.cos(((month - 5) / 12) * 2 * Math.PI);
    const often = (WEEKDAYS[weekday] ?? 1) * season;
    const cells: Cell[] = [];
    for (const one of this.answered) {
      const mean = (one.demand.searches / DAYS_A_MONTH) * one.searched.weight * often;
      const searches = mean > 0 ? poisson(mean)() : 0;
      if (searches > 0) this.show(one, nth, searches, random, binomial, cells);
    }
    this.spend(cells, binomial, random);
    return cells.filter(({ impressions, lostBudget, lostRank }) => impressions + lostBudget + lostRank > 0);
  }

  private show(
    { searched, demand, row, relevance }: Auctioned,
    nth: number,
    searches: number,
    random: () => number,
    binomial: ReturnType<typeof randomBinomial.source>,
    cells: Cell[],
  ): void {
    const { rows, groups, campaigns } = this.advertiser;
    const { group, type, bid, text } = rows[row] as Advertiser['rows'][number];
    const { ads, campaign } = groups[group] as Advertiser['groups'][number];
    const { rival, page, ad: better, onlyCost, worthOwn } = this.causes;
    const cpc = demand.cpc > 0 ? demand.cpc : USUAL_CPC;
    const isPressed = rival && campaigns[campaign]?.name === rival.campaign && nth >= rival.from;
    const parts = this.partners ? [1 - PARTNERS, PARTNERS] : [1];
    for (const [at, share] of parts.entries()) {
      const eligible = parts.length === 1 ? searches : binomial(searches, share)();
      if (eligible === 0) continue;
      // Ads take turns.
      let left = eligible;
      for (const [n, ad] of ads.entries()) {
        const turns = n === ads.length - 1 ? left : binomial(left, 1 / (ads.length - n))();
        left -= turns;
        if (turns === 0) continue;
        const fits = ad.texts.includes(text) ? 1.15 : 1;
        const strength = (bid / cpc) * (0.6 + 0.4 * relevance) * fits * (isPressed ? rival.worth : 1);
        const shown = binomial(turns, Math.min(0.97, 0.2 + 0.55 * Math.min(1.4, strength)))();
        const position = Math.max(1, 1 + 6 * Math.exp(-1.3 * strength) * (0.9 + 0.2 * random()));
        const ctr =
          TOP_CTR *
          FALL ** (position - 1) *
          MATCHED[type] *
          fits *
          (better && ads.length > 1 && ad.headline === better.headline ? better.times : 1) *
          (at === 1 ? 0.5 : 1);
        const clicks = shown > 0 ? binomial(shown, Math.min(MOST_CTR, ctr))() : 0;
        const isBroken = page && ad.page === page.address && nth >= page.from && nth <= page.to;
        const isCost = searched.word !== null && onlyCost.includes(searched.word);
        const often = RATE * (searched.word === worthOwn.word ? worthOwn.times : 1);
        const sold = clicks === 0 || isBroken || isCost ? 0 : binomial(clicks, Math.min(0.5, often))();
        const paid = Math.min(bid, cpc * (0.55 + 0.5 / position) * (0.9 + 0.2 * random()));
        cells.push({
          row,
          term: searched.text,
          ad: n,
          network: at === 1 ? 'partners' : 'search',
          impressions: shown,
          clicks,
          cost: clicks * Math.round(paid / 10_000) * 10_000,
          position,
          delays: Array.from({ length: sold }, () => delayOf(random)),
          worth: WORTH * Math.round(50 + 100 * noiseOf(`worth ${demand.text}`)) * 0.01,
          eligible: turns,
          lostBudget: 0,
          lostRank: turns - shown,
        });
      }
    }
  }

  /** Budgets that run out: what comes after that is not shown. */
  private spend(
    cells: Cell[],
    binomial: ReturnType<typeof randomBinomial.source>,
    random: () => number,
  ): void {
    const { rows, groups, campaigns } = this.advertiser;
    const campaignOf = ({ row }: Cell) => groups[rows[row]?.group ?? -1]?.campaign ?? -1;
    const spent = new Map<number, number>();
    for (const cell of cells) spent.set(campaignOf(cell), (spent.get(campaignOf(cell)) ?? 0) + cell.cost);
    for (const cell of cells) {
      const budget = campaigns[campaignOf(cell)]?.budget ?? null;
      const all = spent.get(campaignOf(cell)) ?? 0;
      if (budget === null || all <= budget) continue;
      const kept = budget / all;
      const [shown, clicked] = [cell.impressions, cell.clicks];
      cell.clicks = binomial(clicked, kept)();
      cell.impressions = cell.clicks + binomial(shown - clicked, kept)();
      cell.cost = clicked > 0 ? (cell.cost / clicked) * cell.clicks : 0;
      // What was sold went by clicks: it goes with them.
      cell.delays = cell.delays.filter(() => random() * clicked < cell.clicks).slice(0, cell.clicks);
      cell.lostBudget = shown - cell.impressions;
    }
  }
}

function delayOf(random: () => number): number {
  let days = 0;
  while (days < LATEST && random() > SAME_DAY) days++;
  return days;
}
