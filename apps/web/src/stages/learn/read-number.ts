const plain = new Intl.NumberFormat('en-GB');
const signed = (value: number): string => plain.format(value).replace('-', '−');

/** A number as it is typed, with or without a percent sign; null where it is none. */
export function typedNumber(typed: string): number | null {
  const value = Number(typed.trim().replace('%', '').replace(',', '.').replace('−', '-'));
  return typed.trim() === '' || !Number.isFinite(value) ? null : value;
}

export const noNumber = (typed: string, like: string): string =>
  `“${typed}” is no number. Type it like ${like}.`;

/** Reads a number, with or without a percent sign, between two others; `like` is an example of one. */
export const readWithin =
  (least: number, most: number, like: string) =>
  (typed: string): { value: number } | { words: string } => {
    const value = typedNumber(typed);
    if (value === null) return { words: noNumber(typed, like) };
    if (value < least || value > most) return { words: `From ${signed(least)} to ${signed(most)}.` };
    return { value };
  };
