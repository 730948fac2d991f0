import { randomInt } from 'node:crypto';
import type { Failure, FailureCode } from '@sprig/contracts';

/** The one error that a caller may see. Anything else answers as `internal`, its cause only in the log. */
export class SprigFailure extends Error {
  constructor(
    readonly code: FailureCode,
    message: string,
    readonly details: { at?: string; current?: unknown; number?: string } = {},
  ) {
    super(message);
  }

  toAnswer(): Failure {
    return { code: this.code, message: this.message, ...this.details };
  }
}

export const notFound = (what: string) => new SprigFailure('not-found', `There is no such ${what}.`);

/** A value was edited that is not any more what its editor saw; `current` is what it is now. */
export const changedMeanwhile = (at: string, current: unknown) =>
  new SprigFailure('conflict', 'This was changed meanwhile, in another window or by somebody else.', {
    at,
    current,
  });

/** What the database says where there is no room left, by its own codes and the system's. */
const NO_ROOM: Record<string, string> = {
  '53100': 'The disk of the database is full. Nothing was changed: make room there, and try again.',
  ENOSPC: 'The disk is full. Nothing was changed: make room there, and try again.',
  '53200':
    'The database has no memory left. Nothing was changed: try again in a moment, or with less at once.',
};

/** What the database gives up by itself. */
const GIVEN_UP: Record<string, SprigFailure> = {
  '55P03': new SprigFailure(
    'busy',
    'Somebody else is just changing this. Nothing was changed here: try again in a moment.',
  ),
  '57014': new SprigFailure('unavailable', 'This took too long, and was given up. Nothing was changed.'),
};

/** What the database can't take, by its own codes. */
const UNFIT: Record<string, string> = {
  '22003': 'A number is too large to be kept.',
  '22021': 'A character can’t be kept, such as NUL. Take it out.',
  '22P05': 'A character can’t be kept, such as NUL. Take it out.',
};

/** Any error as one that a caller may see. */
export function asFailure(error: unknown): SprigFailure {
  if (error instanceof SprigFailure) return error;
  const { name = '' } = error as { name?: string };
  if (name === 'SequelizeConnectionAcquireTimeoutError')
    return new SprigFailure('unavailable', 'Too much is asked at once. Try again in a moment.');
  if (name.startsWith('SequelizeConnection'))
    return new SprigFailure('unavailable', 'The database does not answer. Try again in a moment.');
  if (isConnectionLost(error))
    return new SprigFailure(
      'unavailable',
      'The connection to the database was lost, and it is not known whether this was done. Look, and try again in a moment.',
    );
  const [told = ''] = codesOf(error);
  if (GIVEN_UP[told]) return GIVEN_UP[told];
  if (UNFIT[told]) return new SprigFailure('invalid', UNFIT[told]);
  const words = NO_ROOM[told];
  if (words) return new SprigFailure('unavailable', words);
  const number = newNumber();
  return new SprigFailure(
    'internal',
    `Something went wrong here, and is in the log as error ${number}. Nothing was changed; try again.`,
    { number },
  );
}

/** Short enough to be read out; letters and digits that can't be taken for one another. */
const SIGNS = 'ABCDEFGHJKLMNPQRTUVWXY346789';
const newNumber = (): string => Array.from({ length: 7 }, () => SIGNS[randomInt(SIGNS.length)]).join('');

/** Whether an error says that the database went away, so that it is not known what came of a statement. */
export function isConnectionLost(error: unknown): boolean {
  const { name = '', message = '' } = (error ?? {}) as Partial<Error>;
  return (
    name.startsWith('SequelizeConnection') ||
    codesOf(error).some((code) => LOST.has(code)) ||
    /not currently accepting connections|Connection terminated|connection is closed|Client has encountered a connection error|terminating connection/i.test(
      message,
    )
  );
}

/** Whether a statement was cancelled, by hand or for its time. */
export const isCanceled = (error: unknown): boolean => codesOf(error).includes('57014');

/** Of the system, and of the database when it shuts down, has crashed or starts. */
const LOST = new Set([
  'ECONNRESET',
  'ECONNREFUSED',
  'EPIPE',
  'ETIMEDOUT',
  '57P01',
  '57P02',
  '57P03',
  '08006',
  '08003',
]);

/** The codes that an error carries, its own first, then those of what the database said. */
export function codesOf(error: unknown): string[] {
  const { original, parent } = (error ?? {}) as { original?: unknown; parent?: unknown };
  return [error, original, parent].flatMap((one) => {
    const code = (one as { code?: unknown } | null | undefined)?.code;
    return typeof code === 'string' ? [code] : [];
  });
}
