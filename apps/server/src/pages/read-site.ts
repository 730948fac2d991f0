import { type SitePage, type SitePhrase, sitePhrases } from '@sprig/core/gather';
import type { LanguagePack } from '@sprig/core/text';
import { readSite as readSiteAddress } from '@sprig/core/write';
import { Parser } from 'htmlparser2';
import robotsParser, { type Robot } from 'robots-parser';
import { AGENT, type Asker } from './asker.ts';
import { isHtml, LIMIT_MS, MOST_BYTES } from './fetch-page.ts';
import { readSitePage } from './site-page.ts';
import { textOfPage } from './text-of-page.ts';

export type SiteReading = {
  address: string;
  pages: { address: string; title: string; isCut: boolean }[];
  /** What was not read, each with why. */
  refused: { address: string; why: string }[];
  /** More pages were known than are read. */
  isMore: boolean;
  phrases: SitePhrase[];
};

const MOST_PAGES = 50;
const AT_ONCE = 2;
const MOST_MS = 60_000;
const MOST_KNOWN = 500;
const MOST_REFUSED = 200;
const MOST_SITEMAPS = 5;
const MOST_SITEMAP_BYTES = 2 * 1024 * 1024;
const NO_SERVER = /No server is known|takes no visitors|private network|no web address/;

/**
 * Reads up to 50 pages of a site, from its sitemap and its links, two at a time, and what they speak of. What robots.txt
 * forbids is not read; nothing leads to another host. Throws with words for the user where nothing at all can be read.
 * @param tell is told of each page that has been dealt with, and may throw to stop
 */
export async function readSite(
  address: string,
  asker: Asker,
  pack: LanguagePack,
  tell: (done: number, total: number) => Promise<void>,
): Promise<SiteReading> {
  const reading = new Reading(address, asker, Date.now() + MOST_MS);
  await reading.run(tell);
  return {
    address: reading.start,
    pages: reading.pages.map(({ address: at, title, isCut }) => ({ address: at, title, isCut })),
    refused: reading.refused.slice(0, MOST_REFUSED),
    isMore: reading.isMore,
    phrases: sitePhrases(reading.pages, pack),
  };
}

/** Why nothing of a site can be read, in words. */
export class UnreadableSite extends Error {}

class Reading {
  readonly pages: (SitePage & { address: string; title: string; isCut: boolean })[] = [];
  readonly refused: { address: string; why: string }[] = [];
  readonly start: string;
  isMore = false;
  private readonly known = new Set<string>();
  private readonly queue: string[] = [];
  private robots: Robot | null = null;
  private host = '';

  constructor(
    address: string,
    private readonly asker: Asker,
    private readonly until: number,
  ) {
    const read = readSiteAddress(address);
    if (read.status === 'problem')
      throw new UnreadableSite(
        'This is no web address. Type it like shop.example or https://shop.example/mugs.',
      );
    this.start = read.href;
    this.host = new URL(read.href).host;
  }

  async run(tell: (done: number, total: number) => Promise<void>): Promise<void> {
    this.robots = await this.readRobots();
    this.add(this.start);
    await this.readOne();
    if (this.pages.length === 0)
      throw new UnreadableSite(`${this.refused[0]?.why ?? 'Nothing came.'} Nothing of the site was read.`);
    for (const found of await this.sitemap()) this.add(found);
    let done = 1;
    await tell(done, this.total());
    const worker = async () => {
      while (this.queue.length > 0 && this.pages.length < MOST_PAGES && Date.now() < this.until) {
        await this.readOne();
        await tell(++done, this.total());
      }
    };
    // One that finds the queue empty looks again when the other has brought new links.
    while (this.queue.length > 0 && this.pages.length < MOST_PAGES && Date.now() < this.until)
      await Promise.all(Array.from({ length: AT_ONCE }, worker));
    this.isMore = this.queue.length > 0;
    if (this.pages.length < MOST_PAGES && this.queue.length > 0)
      this.refuse(this.queue[0] as string, 'A minute was over before this and what comes after it was read.');
    if (this.pages.length > MOST_PAGES) this.pages.length = MOST_PAGES;
  }

  private total = (): number => Math.min(MOST_PAGES, this.pages.length + this.queue.length);

  private refuse(address: string, why: string) {
    if (this.refused.length < MOST_REFUSED) this.refused.push({ address, why });
  }

  /** Puts an address of the same host in the queue, once. */
  private add(href: string, base = this.start) {
    let url: URL;
    try {
      url = new URL(href, base);
    } catch {
      return;
    }
    if (!/^https?:$/.test(url.protocol) || url.host !== this.host) return;
    url.hash = '';
    const at = url.href;
    if (this.known.has(at)) return;
    if (this.known.size >= MOST_KNOWN) {
      this.isMore = true;
      return;
    }
    this.known.add(at);
    if (/\.(jpe?g|png|gif|webp|svg|pdf|zip|mp4|css|js|xml|ico|docx?|xlsx?)$/i.test(url.pathname)) return;
    this.queue.push(at);
  }

  private async readOne(): Promise<void> {
    const at = this.queue.shift();
    if (at === undefined) return;
    if (this.robots?.isAllowed(at, AGENT) === false)
      return this.refuse(at, 'The site’s robots.txt asks not to read it.');
    const came = await this.asker.ask(at, {
      until: Math.min(this.until, Date.now() + LIMIT_MS),
      mostBytes: MOST_BYTES,
      wants: isHtml,
    });
    if (came.problem !== '') return this.refuse(at, came.problem);
    if (came.leadsTo !== '' && new URL(came.leadsTo).host !== this.host) {
      // The address that was typed may lead to the site’s own name: that is where it is.
      if (this.pages.length > 0 || at !== this.start)
        return this.refuse(at, `It leads to ${new URL(came.leadsTo).host}.`);
      this.host = new URL(came.leadsTo).host;
    }
    if (came.status !== 200) return this.refuse(at, `The server answered ${came.status}.`);
    if (!isHtml(came.type)) return this.refuse(at, 'It is no page of text.');
    const page = readSitePage(textOfPage(came.bytes, came.type));
    if (this.pages.length >= MOST_PAGES) return;
    this.pages.push({ ...page, address: came.leadsTo || at, isCut: came.isCut });
    for (const link of page.links) this.add(link, came.leadsTo || at);
  }

  private async text(address: string, mostBytes: number): Promise<string | null> {
    const came = await this.asker.ask(address, {
      until: Math.min(this.until, Date.now() + LIMIT_MS),
      mostBytes,
      wants: () => true,
    });
    if (NO_SERVER.test(came.problem))
      throw new UnreadableSite(`${came.problem} Nothing of the site was read.`);
    return came.status === 200 ? textOfPage(came.bytes, came.type) : null;
  }

  private async readRobots(): Promise<Robot | null> {
    const at = new URL('/robots.txt', this.start).href;
    const text = await this.text(at, MOST_BYTES);
    return text === null || /^\s*</.test(text) ? null : robotsParser(at, text);
  }

  /** The addresses of the site’s maps, those that robots.txt names or the usual one, one level deep. */
  private async sitemap(): Promise<string[]> {
    const named = this.robots?.getSitemaps() ?? [];
    const maps = named.length > 0 ? [...named] : [new URL('/sitemap.xml', this.start).href];
    const found: string[] = [];
    for (let at = 0; at < Math.min(maps.length, MOST_SITEMAPS); at++) {
      const url = URL.canParse(maps[at] as string, this.start)
        ? new URL(maps[at] as string, this.start)
        : null;
      if (!url || url.host !== this.host) continue;
      const xml = await this.text(url.href, MOST_SITEMAP_BYTES);
      if (xml === null) continue;
      const { pages, more } = addressesOf(xml);
      found.push(...pages);
      maps.push(...more);
    }
    return found;
  }
}

/** The pages and the further maps that a sitemap names. */
function addressesOf(xml: string): { pages: string[]; more: string[] } {
  const pages: string[] = [];
  const more: string[] = [];
  let inMap = false;
  let text: string | null = null;
  const parser = new Parser(
    {
      onopentag(tag) {
        if (tag === 'sitemap') inMap = true;
        if (tag === 'loc') text = '';
      },
      ontext(piece) {
        if (text !== null) text += piece;
      },
      onclosetag(tag) {
        if (tag === 'sitemap') inMap = false;
        if (tag !== 'loc' || text === null) return;
        (inMap ? more : pages).push(text.trim());
        text = null;
      },
    },
    { xmlMode: true, decodeEntities: true },
  );
  parser.write(xml);
  parser.end();
  return { pages: pages.slice(0, MOST_KNOWN), more: more.slice(0, MOST_SITEMAPS) };
}
