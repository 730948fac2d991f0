export { type ColumnRole, columnRoles } from './columns.ts';
export { type Encoding, type EncodingGuess, encodings, guessEncoding } from './encoding.ts';
export { type DecimalMark, type Figure, guessDecimal, readAmount, readCount } from './figure.ts';
export {
  type Figures,
  figuresOf,
  fromMentions,
  type Merged,
  mergeIntoPool,
  type PoolKeyword,
} from './merge-pool.ts';
export {
  type LineProblem,
  type ListLayout,
  notationCounts,
  type Reading,
  type ReadKeyword,
  type ReadNegative,
  type ReadOptions,
  readList,
  type SetAside,
} from './read-list.ts';
export { type Delimiter, linesOf, readRecords } from './records.ts';
