export { type ColumnRole, columnRoles } from './column-role.ts';
export { mayBeTotals } from './columns.ts';
export { type Decoder, decoderOf } from './decode.ts';
export { type Encoding, type EncodingGuess, encodings, guessEncoding } from './encoding.ts';
export {
  columnMark,
  type DecimalMark,
  type Figure,
  guessCurrency,
  guessScale,
  readAmount,
  readCompetition,
  readCount,
  readNumber,
} from './figure.ts';
export { filterWords } from './filter-words.ts';
export {
  type AroundInput,
  around,
  type Beside,
  completions,
  findGaps,
  type Gap,
  type GapClass,
  type GapOptions,
  type GapPool,
  type Gaps,
  PoolContexts,
  type Suggested,
  whyWords,
} from './gaps/index.ts';
export { roleOfHeading } from './headings.ts';
export { LinePieces } from './line-pieces.ts';
export { type ListLayout, layoutName, type OpenQuestion, type ReadOptions } from './list-layout.ts';
export { ListStream } from './list-stream.ts';
export {
  BY_HAND,
  type Figures,
  figuresOf,
  fromMentions,
  type Mention,
  noFigures,
  type PooledFigures,
} from './merge-pool.ts';
export {
  firstSaid,
  type ListCounts,
  noCounts,
  notationCounts,
  type Reading,
  type ReadKeyword,
  readList,
  saidAgain,
} from './read-list.ts';
export type {
  LineProblem,
  ReadNegative,
  RowSink,
  SaidFigures,
  SaidKeyword,
  SetAside,
} from './read-rows.ts';
export {
  type Delimiter,
  guessDelimiter,
  LONGEST_LINE,
  MOST_COLUMNS,
  readRecords,
  type TextRecord,
} from './records.ts';
export { noRewriting, type Rewriter, type Rewriting, rewriter } from './rewrite.ts';
export { type SitePage, type SitePhrase, type SiteText, sitePhrases } from './site-phrases.ts';
