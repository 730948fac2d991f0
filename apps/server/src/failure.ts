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
