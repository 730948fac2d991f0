import type { BasisPoints, Micros } from '@sprig/core/money';

/** What a market tells of one search. */
export type MarketFigures = {
  /** A month, the mean of the last twelve. */
  searches: number;
  /** Each of the last twelve months, oldest first. */
  months: number[];
  /** 0 to 100. */
  competition: number;
  /** What a click costs at the position that most have. */
  cpc: Micros;
  /** Impressions a month to expect, and the share of them that is clicked. */
  impressions: number;
  ctr: BasisPoints;
};

/** The least bid that reaches a position, 1 = top, and what it brings a month. */
export type PositionEstimate = {
  position: number;
  bid: Micros;
  clicks: number;
  /** The share of impressions that the bid gets: 0 to 1. */
  share: number;
};

/** An ad of somebody else, as it reads. */
export type RivalAd = { host: string; headlines: string[]; descriptions: string[] };

/** A page as it was read: its words, and the searches that they speak of, the most telling first. */
export type ReadPage = { address: string; title: string; seeds: string[] };

/**
 * Where figures and ideas come from. The stand-in that ships has no network behind it; a real market takes its place
 * by answering the same. Texts are in normal form.
 */
export type MarketProvider = {
  name: string;
  isStandIn: boolean;
  figures(texts: readonly string[]): Promise<MarketFigures[]>;
  /** Searches related to the seeds, most searched first, at most `most`; the seeds themselves are among them. */
  related(seeds: readonly string[], most: number): Promise<string[]>;
  /** Searches that begin with what was typed, most searched first. */
  completions(typed: string, most: number): Promise<string[]>;
  positions(text: string): Promise<PositionEstimate[]>;
  /** The curves of many searches, in their order. */
  curves(texts: readonly string[]): Promise<PositionEstimate[][]>;
  /** The ads of others that a search shows, the best placed first. */
  rivalAds(text: string): Promise<RivalAd[]>;
  /** null where there is no such page. */
  readPage(address: string): Promise<ReadPage | null>;
};
