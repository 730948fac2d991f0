export type Fault = { number: string; part: string; error: unknown };

let listener: (fault: Fault) => void = () => {};

/** Who is told of parts of a screen that failed. */
export const onFault = (next: (fault: Fault) => void): void => {
  listener = next;
};

const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';
const LENGTH = 7;

/** A number by which a fault can be spoken of: what the screen shows and the log says are the same. */
const newNumber = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(LENGTH)), (byte) => LETTERS[byte % LETTERS.length]).join(
    '',
  );

const numbers = new Map<unknown, string>();

/** The number of what was thrown. */
export function numberOf(error: unknown): string {
  const number = numbers.get(error) ?? newNumber();
  numbers.set(error, number);
  return number;
}

/** Tells of a part that failed. */
export const tellFault = (part: string, error: unknown): void =>
  listener({ number: numberOf(error), part, error });
