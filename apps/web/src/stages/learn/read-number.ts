const plain = new Intl.NumberFormat('en-GB');
const signed = (value: number): string => plain.format(value).replace('-', '−');

/** Reads a number, with or without a percent sign, between two others; `like` is an example of one. */
export const readWithin =
  (least: number, most: number, like: string) =>
  (typed: string): { value: number } | { words: string } => {
    const value = Number(typed.trim().replace('%', '').replace(',', '.').replace('−', '-'));
    if (typed.trim() === '' || !Number.isFinite(value))
      return { words: `“${typed}” is no number. Type it like ${like}.` };
    if (value < least || value > most) return { words: `From ${signed(least)} to ${signed(most)}.` };
    return { value };
  };
