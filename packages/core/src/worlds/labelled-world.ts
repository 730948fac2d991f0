import type { ToldKeywords } from '../figures/index.ts';
import { seeded } from '../text/index.ts';

/** The words of a made-up field. */
export type Field = { traits: string[]; goods: string[]; wants: string[]; places: string[] };

const list = (words: string) => words.trim().split(/\s*,\s*/);

/** Fields of other trades than the demo's, written down before anything was tuned on them. */
export const fields: Record<'tea' | 'dentist' | 'software', Field> = {
  tea: {
    traits: list(
      'cast iron, glass, ceramic, porcelain, bone china, organic, loose leaf, decaf, herbal, vintage, small, large, insulated, blue, white, handmade, japanese style, stove top, electric, travel, stainless steel, two cup, personalised, silver',
    ),
    goods: list(
      'teapot, tea infuser, kettle, green tea, black tea, oolong tea, tea caddy, tea set, teacup, tea strainer, chai, rooibos, matcha, tea towel, tea tray, milk jug, sugar bowl, mug, tea cosy, saucer',
    ),
    wants: list(
      'for sale, price, best, review, gift, buy, cheap, online, set, with lid, near me, wholesale, how to clean, uk delivery',
    ),
    places: list('orrinford, stelby, quaymouth, hexcombe'),
  },
  dentist: {
    traits: list(
      'emergency, private, cosmetic, childrens, same day, painless, weekend, affordable, ceramic, full mouth, partial, laser, invisible, metal, temporary, front tooth, back tooth, sedation, first visit, walk in',
    ),
    goods: list(
      'dentist, implant, whitening, crown, bridge, braces, dentures, veneers, root canal, filling, extraction, hygienist, check up, mouthguard, x ray, gum treatment, retainer, aligner',
    ),
    wants: list(
      'cost, price, near me, reviews, appointment, aftercare, pain, how long does it take, before and after, finance, open now, book, best',
    ),
    places: list('orrinford, stelby, quaymouth, hexcombe, north orrin, brackley heath'),
  },
  software: {
    traits: list(
      'cloud, open source, free, mobile, small business, enterprise, self hosted, ai, online, simple, secure, agile, team, shared, offline, white label, nonprofit, remote, automated, custom',
    ),
    goods: list(
      'project planner, invoice software, crm, time tracker, help desk, password manager, form builder, payroll software, inventory app, booking system, document signing, email client, chat app, backup tool, wiki, code editor, timesheet',
    ),
    wants: list(
      'pricing, review, alternative, vs spreadsheet, login, tutorial, free trial, integration, comparison, download, for freelancers, api, best, template',
    ),
    places: [],
  },
};

export type World = ToldKeywords & {
  /** What the figures would be without chance. */
  expected: { searches: number[]; cpc: number[] };
};

/**
 * A world whose figures are products of effects of words and of pairs (standard deviation about 1.5 in ln of searches,
 * together), and of chance (0.5; of the CPC 0.2). The most usual texts first.
 */
export function labelledWorld(field: Field, size: number, seed: number): World {
  const random = seeded(seed);
  const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const effects = new Map<string, [number, number]>();
  const effectOf = (name: string, spread: number, price: number): [number, number] => {
    const known = effects.get(name) ?? [normal() * spread, normal() * price];
    effects.set(name, known);
    return known;
  };
  const { traits, goods, wants, places } = field;
  const texts: string[] = [];
  const parts: string[][] = [];
  const add = (...words: string[]) => {
    texts.push(words.join(' '));
    parts.push(words);
  };
  const front = (want: string) => /^(best|buy|cheap|how|book)/.test(want);
  for (const good of goods) {
    add(good);
    for (const trait of traits) add(trait, good);
    for (const want of wants) add(...(front(want) ? [want, good] : [good, want]));
    for (const place of places) add(good, place);
    for (const trait of traits)
      for (const want of wants) add(...(front(want) ? [want, trait, good] : [trait, good, want]));
    for (const trait of traits) for (const place of places) add(trait, good, place);
    for (const want of wants)
      for (const place of places) add(...(front(want) ? [want, good, place] : [good, want, place]));
    for (const [at, trait] of traits.entries())
      for (const other of traits.slice(at + 1)) add(trait, other, good);
  }
  const order = texts.map((_, at) => ({ at, by: random() })).sort((a, b) => a.by - b.by);
  const chosen = order.slice(0, size).map(({ at }) => at);
  const expected = { searches: [] as number[], cpc: [] as number[] };
  const world: World = {
    norms: [],
    searches: [],
    searchesAbout: [],
    cpc: [],
    cpcAbout: [],
    competition: [],
    expected,
  };
  const out = world as { [K in keyof World]: World[K] extends ArrayLike<infer T> ? T[] : World[K] };
  for (const at of chosen) {
    const words = parts[at] as string[];
    let searches = 5.2;
    let cpc = Math.log(700_000);
    for (const [n, word] of words.entries()) {
      const [own, price] = effectOf(word, 1.02, 0.25);
      searches += own - (n > 0 ? 0.3 : 0);
      cpc += price;
      const next = words[n + 1];
      if (next === undefined) continue;
      const [pair, pairPrice] = effectOf(`${word}|${next}`, 0.4, 0.06);
      searches += pair;
      cpc += pairPrice;
    }
    out.norms.push(texts[at] as string);
    expected.searches.push(Math.exp(searches));
    expected.cpc.push(Math.exp(cpc));
    out.searches.push(Math.round(Math.exp(searches + normal() * 0.5)));
    out.cpc.push(Math.round(Math.exp(cpc + normal() * 0.2)));
    out.competition.push(Math.round(100 / (1 + Math.exp(-(searches - 5) / 2 + normal() * 0.4))));
    out.searchesAbout.push(false);
    out.cpcAbout.push(false);
  }
  return world;
}

/** A world without some of its keywords. */
export function without(world: ToldKeywords, isOut: (at: number) => boolean): ToldKeywords {
  const kept = [...world.norms.keys()].filter((at) => !isOut(at));
  const pick = <T>(values: ArrayLike<T>) => kept.map((at) => values[at] as T);
  return {
    norms: pick(world.norms),
    searches: pick(world.searches),
    searchesAbout: pick(world.searchesAbout),
    cpc: pick(world.cpc),
    cpcAbout: pick(world.cpcAbout),
    competition: pick(world.competition),
  };
}
