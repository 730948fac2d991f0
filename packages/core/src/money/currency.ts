declare const micros: unique symbol;

/** An amount in millionths of the currency's unit, an integer: £0.58 is 580,000. */
export type Micros = number & { readonly [micros]: true };

/** A share in hundredths of a percent, an integer: 70% is 7,000. */
export type BasisPoints = number;

export const MICROS_PER_UNIT = 1_000_000;

/** Currencies on offer, with how many decimals each is counted in. */
export const currencies: Readonly<Record<string, number>> = {
  GBP: 2,
  EUR: 2,
  USD: 2,
  AUD: 2,
  CAD: 2,
  CHF: 2,
  NZD: 2,
  SEK: 2,
  NOK: 2,
  DKK: 2,
  PLN: 2,
  CZK: 2,
  INR: 2,
  ZAR: 2,
  BRL: 2,
  MXN: 2,
  JPY: 0,
  KRW: 0,
  ISK: 0,
  CLP: 0,
  VND: 0,
  KWD: 3,
  BHD: 3,
  JOD: 3,
  TND: 3,
  OMR: 3,
};

export const decimalsOf = (currency: string): number => currencies[currency] ?? 2;

/** The smallest amount of a currency: 10,000 for two decimals, 1,000,000 for none, 1,000 for three. */
export const minorUnit = (currency: string): Micros => (10 ** (6 - decimalsOf(currency))) as Micros;

/** Narrows a checked integer. */
export const asMicros = (amount: number): Micros => amount as Micros;
