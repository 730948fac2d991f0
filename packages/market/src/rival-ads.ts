import { hashOf, normalise } from '@sprig/core/text';
import type { RivalAd } from './provider.ts';
import { partsOf } from './vocabulary.ts';

type Rival = {
  host: string;
  /** Of the goods, in title case. */
  headlines: ((goods: string) => string)[];
  descriptions: ((goods: string) => string)[];
  /** Shows itself for a search with one of these words; none: for all that name goods. */
  wants: readonly string[];
};

/** Made-up shops that advertise against the made-up client. */
const rivals: readonly Rival[] = [
  {
    host: 'fathomandreed.example',
    headlines: [(goods) => `${goods} by Fathom & Reed`, () => 'Carbon From £240', () => 'See The Range'],
    descriptions: [(goods) => `${goods} for long days on open water. Order by noon, sent the same day.`],
    wants: [],
  },
  {
    host: 'ebbandflowhire.example',
    headlines: [(goods) => `Hire a ${goods}`, () => 'From £18 an Hour', () => 'No Deposit'],
    descriptions: [
      (goods) => `Book a ${goods.toLowerCase()} online and be on the water today. Every age, all year round.`,
    ],
    wants: ['hire', 'rental', 'rent', 'lessons', 'tour', 'near'],
  },
  {
    host: 'bargainboathouse.example',
    headlines: [(goods) => `Cheap ${goods} Deals`, () => 'Last Season’s Stock', () => 'While They Last'],
    descriptions: [
      (goods) => `Up to a third off every ${goods.toLowerCase()} in the boathouse. New ones each week.`,
    ],
    wants: [],
  },
  {
    host: 'tidewaterguide.example',
    headlines: [(goods) => `${goods}: What to Know`, () => 'Tested and Compared'],
    descriptions: [
      (goods) => `Which ${goods.toLowerCase()} suits you? Eleven tested by people who paddle every week.`,
    ],
    wants: ['review', 'best', 'how', 'what', 'size', 'beginner'],
  },
];

const titled = (text: string) => text.replace(/(^|[\s-])\p{L}/gu, (start) => start.toUpperCase());

/** The ads of others that a search would show: the same ones every time, none for a search that names no goods. */
export function rivalAdsFor(search: string): RivalAd[] {
  const norm = normalise(search);
  const parts = partsOf(norm);
  const goods = parts.filter(({ role }) => role === 'good' || role === 'trait').map(({ text }) => text);
  if (!parts.some(({ role }) => role === 'good')) return [];
  const words = new Set(norm.split(' '));
  const about = titled(goods.join(' '));
  return rivals
    .filter(({ wants }) => wants.length === 0 || wants.some((want) => words.has(want)))
    .map((rival, at) => ({ rival, order: hashOf(`${norm} ${at}`) }))
    .sort((a, b) => a.order - b.order)
    .map(({ rival: { host, headlines, descriptions } }) => ({
      host,
      headlines: headlines.map((write) => write(about)),
      descriptions: descriptions.map((write) => write(about)),
    }));
}
