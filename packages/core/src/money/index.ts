export {
  asMicros,
  type BasisPoints,
  currencies,
  decimalsOf,
  MICROS_PER_UNIT,
  type Micros,
  minorUnit,
} from './currency.ts';
export { decimalFromMicros, microsFromDecimal } from './decimal.ts';
export { medianOf } from './median.ts';
export { atRate, between, multiplied } from './round.ts';
