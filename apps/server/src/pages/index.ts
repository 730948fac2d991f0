export { AGENT, Asker } from './asker.ts';
export { fetchPage } from './fetch-page.ts';
export { pageWords } from './page-words.ts';
export { isInside } from './private-networks.ts';
export { readSite, UnreadableSite } from './read-site.ts';
