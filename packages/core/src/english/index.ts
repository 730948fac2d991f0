export { commonWords } from './common-words.ts';
