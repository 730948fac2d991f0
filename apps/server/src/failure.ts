import type { Failure, FailureCode } from '@sprig/contracts';

/** The one error that a caller may see. Anything else answers as `internal`, its cause only in the log. */
export class SprigFailure extends Error {
  constructor(
    readonly code: FailureCode,
    message: string,
    readonly details: { at?: string; current?: unknown } = {},
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

/** Any error as one that a caller may see. */
export function asFailure(error: unknown): SprigFailure {
  if (error instanceof SprigFailure) return error;
  if ((error as { name?: string }).name?.startsWith('SequelizeConnection'))
    return new SprigFailure('unavailable', 'The database does not answer. Try again in a moment.');
  const { code, original, parent } = error as { code?: string; original?: unknown; parent?: unknown };
  const words = NO_ROOM[code ?? codeOf(original) ?? codeOf(parent) ?? ''];
  if (words) return new SprigFailure('unavailable', words);
  return new SprigFailure('internal', 'Something went wrong here. Nothing was changed; try again.');
}

const codeOf = (error: unknown): string | undefined => (error as { code?: string } | undefined)?.code;
