export { type AroundInput, around, type Suggested, whyWords } from './around.ts';
export { completions } from './completions.ts';
export {
  type Beside,
  findGaps,
  type Gap,
  type GapClass,
  type GapOptions,
  type GapPool,
  type Gaps,
  PoolContexts,
} from './gaps.ts';
