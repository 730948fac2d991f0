export {
  type AdInput,
  type AdsOfGroup,
  AdWriter,
  adKeyOf,
  branchOf,
  type CommonTokens,
  type NumberedPattern,
  scopeOf,
  type TokenGroup,
  tokensOf,
  unfilledOfAd,
  type WrittenAd,
} from './ad-writer.ts';
export { HeldAds } from './held-ads.ts';
export { type ReadAdText, readAdText } from './read-ad-text.ts';
