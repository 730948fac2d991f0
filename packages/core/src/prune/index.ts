export { type Conflict, type ConflictPool, conflictsOf } from './conflicts.ts';
export {
  type LookAlikeClass,
  type LookAlikePool,
  lookAlikeClasses,
  sameSearchClasses,
} from './look-alike-classes.ts';
export {
  byKeeping,
  type LookAlike,
  type LookAlikeGroup,
  type LookAlikeInput,
  lookAlikeSignatures,
  lookAlikes,
} from './look-alikes.ts';
export { misspellings, type VocabularyWord } from './misspellings.ts';
export {
  type FilterInput,
  type FilterLimits,
  filterTests,
  type ReadyFilter,
  readyFilters,
} from './ready-filters.ts';
export { type StarterList, starterLists } from './starter-lists.ts';
export {
  byKeywords,
  judgedShare,
  type Review,
  type ReviewedWord,
  type ReviewPool,
  reviewWords,
} from './word-review.ts';
