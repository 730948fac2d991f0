export { type FetchedPage, fetchPage, isInside } from './fetch-page.ts';
export { type PagePart, type PageWords, pageWords } from './page-words.ts';
