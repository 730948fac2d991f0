export {
  type AdField,
  type AdLimits,
  type AdPattern,
  adFields,
  type CompiledPattern,
  compilePattern,
  type FieldFit,
  type FittedAd,
  fitAd,
  unfilledFields,
} from './ad-pattern.ts';
export { type Address, type AddressProblem, readAddress, readSite, slugOf } from './address.ts';
export { countFits, type FieldCount, type FitCounts } from './fit-counts.ts';
export { type Fit, fitLine, type Writing } from './fit-line.ts';
