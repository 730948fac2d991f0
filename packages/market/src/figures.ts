import { asMicros, type Micros } from '@sprig/core/money';
import { noiseAfter, noiseOf } from './noise.ts';
import type { MarketFigures, PositionEstimate } from './provider.ts';
import { folded, type Part, partsOf, placeOf } from './vocabulary.ts';

const TOP_SEARCHES = 60_000;
const BASE_CPC = 620_000;
/** Every further part makes a search rarer by this much. */
const LONG_TAIL = 0.45;
const PENNY = 10_000;

/** What a search is by its words alone, whatever their order and number: variants share most of it. */
const signatureOf = (parts: readonly Part[]): string =>
  parts
    .filter(({ role }) => role !== 'function')
    .map(({ text }) => folded(text))
    .sort()
    .join('|');

/** Variants of one search are close, not equal: the usual order and number are searched most. */
function formFactor(text: string, parts: readonly Part[]): number {
  const content = parts.filter(({ role }) => role !== 'function');
  const usual = content.every(
    ({ role }, at) => at === 0 || placeOf(role) >= placeOf(content[at - 1]?.role ?? role),
  );
  const inflected = parts.some((part) => part.inflected);
  return (usual ? 1 : 0.28) * (inflected ? 0.62 : 1) * (0.9 + 0.2 * noiseOf(`form ${text}`));
}

/** Summer goods: the share of the mean that each month of the year has, January first. */
const SUMMER = [0.45, 0.5, 0.7, 0.95, 1.3, 1.6, 1.75, 1.6, 1.15, 0.75, 0.6, 0.65];

function monthsOf(text: string, searches: number, parts: readonly Part[], lastMonth: number): number[] {
  const swing = parts.some(({ role }) => role === 'good' || role === 'want') ? 1 : 0.25;
  const noise = noiseAfter(`${text} `);
  return Array.from({ length: 12 }, (_, at) => {
    const month = (lastMonth + 1 + at) % 12;
    const season = 1 + swing * ((SUMMER[month] ?? 1) - 1);
    return Math.round(searches * season * (0.94 + 0.12 * noise(String(month))));
  });
}

const rounded = (searches: number) => (searches > 95 ? Math.round(searches / 10) * 10 : Math.round(searches));

/**
 * The stand-in market's figures of a search in normal form: longer is rarer, ready to buy is dearer, another order or
 * number of the same words is close but not equal, an unknown word makes it all but unheard of. `lastMonth` is the last
 * month of the twelve, 0 = January. Deterministic.
 */
export function figuresOf(text: string, lastMonth: number): MarketFigures {
  const parts = partsOf(text);
  const content = parts.filter(({ role }) => role !== 'function');
  const signature = signatureOf(parts);
  const share = parts.reduce((product, { weight }) => product * weight, 1);
  const price = content.reduce((product, part) => product * part.price, 1);
  const wobble = 0.6 + 0.8 * noiseOf(signature);
  const mean =
    TOP_SEARCHES * share * LONG_TAIL ** Math.max(0, content.length - 1) * wobble * formFactor(text, parts);
  const searches = rounded(mean);
  const cpc = cpcOf(text, signature, price);
  const competition = competitionOf(signature, price, searches);
  const impressions = Math.round(searches * (0.72 + 0.2 * noiseOf(`seen ${signature}`)));
  const ctr = Math.round(240 + 260 * Math.min(1.6, price) * (0.7 + 0.6 * noiseOf(`ctr ${signature}`)));
  return { searches, months: monthsOf(text, mean, parts, lastMonth), competition, cpc, impressions, ctr };
}

function cpcOf(text: string, signature: string, price: number): Micros {
  const amount =
    BASE_CPC * price * (0.8 + 0.36 * noiseOf(`cpc ${signature}`)) * (0.97 + 0.06 * noiseOf(`cpc ${text}`));
  return asMicros(Math.max(2, Math.round(amount / PENNY)) * PENNY);
}

function competitionOf(signature: string, price: number, searches: number): number {
  const wanted = 34 + 38 * Math.log2(Math.max(0.25, price)) + 4 * Math.log10(1 + searches);
  return Math.max(1, Math.min(99, Math.round(wanted + 16 * (noiseOf(`rivals ${signature}`) - 0.5))));
}

const POSITIONS = 8;

/** What each position costs and brings: a step down costs about a fifth less and is clicked a third less. */
export function positionsOf(text: string, lastMonth: number): PositionEstimate[] {
  const { cpc, impressions, ctr, competition } = figuresOf(text, lastMonth);
  const steep = 1.4 + competition / 100;
  return Array.from({ length: POSITIONS }, (_, at) => {
    const bid = Math.max(1, Math.round((cpc * steep * 0.81 ** at) / PENNY)) * PENNY;
    const share = 0.96 * 0.9 ** at;
    const clicks = ((impressions * share * ctr) / 10_000) * 1.9 * 0.68 ** at;
    return { position: at + 1, bid: asMicros(bid), clicks: Math.round(clicks * 10) / 10, share };
  });
}
