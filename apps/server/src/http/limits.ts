import { rateLimit } from 'express-rate-limit';
import { SprigFailure } from '../failure.ts';

/** More than any hand and its windows ask for: what a script or a broken window asks beyond it is put off. */
const MOST_A_MINUTE = 12_000;

/** Puts off who asks too much, by address. `RATE_LIMIT_PER_MINUTE` sets how much. */
export const limitRate = (most = Number(process.env.RATE_LIMIT_PER_MINUTE ?? MOST_A_MINUTE)) =>
  rateLimit({
    windowMs: 60_000,
    limit: most,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    handler: (_request, _response, next) =>
      next(
        new SprigFailure(
          'too-many',
          `More than ${most.toLocaleString('en')} requests came within a minute. Nothing was changed: wait a moment, and try again.`,
        ),
      ),
  });
