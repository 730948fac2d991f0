export { AGENT, Asker } from './asker.ts';
export { type FetchedPage, fetchPage } from './fetch-page.ts';
export { type PagePart, type PageWords, pageWords } from './page-words.ts';
export { isInside } from './private-networks.ts';
export { MOST_PAGES, readSite, type SiteReading, UnreadableSite } from './read-site.ts';
