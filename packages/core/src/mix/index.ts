export {
  type CompiledMix,
  compileMix,
  contentWords,
  joiningWord,
  type KeywordLimits,
  type MixInput,
  type MixProblem,
} from './compile.ts';
export { countMix, countPattern, type MixCount, type Shorten, shortenTo } from './count.ts';
export { TextIndex } from './hash.ts';
export {
  circleFrom,
  type ListInputs,
  type ResolvedList,
  resolveLists,
  type SharedWords,
  takenFrom,
} from './lists.ts';
export {
  type EntryWeights,
  entryWeights,
  type Matrix,
  type MatrixView,
  matrixOf,
  visitMatrix,
} from './matrix.ts';
export {
  type DropReason,
  dropReasons,
  lookUpAll,
  type Mixture,
  mix,
  optionsAt,
  patternAt,
  piecesAt,
  textAt,
  textsOf,
} from './mix.ts';
export { withNumberForms } from './number-forms.ts';
export { type PastedList, readPastedColumns } from './pasted-columns.ts';
export {
  type AloneRule,
  type BriefFact,
  briefFacts,
  emptyRecipe,
  MOST_COMBINATIONS,
  type NeverPair,
  type Pattern,
  type Recipe,
  type RecipeList,
  type Side,
  type Slot,
} from './recipe.ts';
export { sampleOf } from './sample.ts';
export { nextId, type ShapeKey, shapeKeys, shapes, withShape } from './shapes.ts';
export {
  type MarkStyle,
  markStyles,
  type Variant,
  type VariantOptions,
  type VariantSource,
  type Variants,
  variantsOf,
  whyOf,
} from './variants.ts';
export { type ReadWords, readWordLine, readWords, type WordForm, type WordProblem } from './words.ts';
export { WordsReader } from './words-reader.ts';
