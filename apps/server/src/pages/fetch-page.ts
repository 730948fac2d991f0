import { Asker } from './asker.ts';
import { textOfPage } from './text-of-page.ts';

/** What came of asking for a page; `problem` says in words why none came. */
export type FetchedPage = {
  status: number | null;
  html: string;
  /** Where it was led on to; empty where it was not. */
  leadsTo: string;
  problem: string;
};

export const LIMIT_MS = 6_000;
export const MOST_BYTES = 512 * 1024;
export const isHtml = (type: string): boolean => /html/i.test(type);

/** Asks for a page once; the first half megabyte of it is enough. */
export async function fetchPage(address: string, asker = new Asker()): Promise<FetchedPage> {
  const { status, bytes, type, leadsTo, problem } = await asker.ask(address, {
    until: Date.now() + LIMIT_MS,
    mostBytes: MOST_BYTES,
    wants: isHtml,
  });
  return { status, html: textOfPage(bytes, type), leadsTo, problem };
}
