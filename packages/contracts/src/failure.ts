import { z } from 'zod';

/** The closed list of ways that a call can fail, and the HTTP status of each. */
export const failureStatus = {
  invalid: 400,
  'signed-out': 401,
  forbidden: 403,
  'not-found': 404,
  conflict: 409,
  'too-large': 413,
  blocked: 422,
  busy: 423,
  'too-many': 429,
  internal: 500,
  unavailable: 503,
} as const;
export type FailureCode = keyof typeof failureStatus;

/** What a failed call answers: what, where, and what to do next. */
export const failureSchema = z.object({
  code: z.enum(Object.keys(failureStatus) as [FailureCode, ...FailureCode[]]),
  message: z.string(),
  /** The field or line it speaks of. */
  at: z.string().optional(),
  /** By which an unexpected failure is found in the log. */
  number: z.string().optional(),
  /** What stands there now, for a conflict. */
  current: z.unknown().optional(),
});
export type Failure = z.infer<typeof failureSchema>;
