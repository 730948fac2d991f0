export { type Conflict, type ConflictPool, conflictsOf } from './conflicts.ts';
export {
  byKeeping,
  type LookAlike,
  type LookAlikeClass,
  type LookAlikeGroup,
  type LookAlikeInput,
  type LookAlikePool,
  lookAlikeClasses,
  lookAlikes,
} from './look-alikes.ts';
export { misspellings, slipsBetween, type VocabularyWord } from './misspellings.ts';
export {
  type FilterInput,
  type FilterLimits,
  filterTests,
  type ReadyFilter,
  readyFilters,
} from './ready-filters.ts';
export { type StarterList, starterLists } from './starter-lists.ts';
export { judgedShare, type Review, type ReviewedWord, type ReviewPool, reviewWords } from './word-review.ts';
