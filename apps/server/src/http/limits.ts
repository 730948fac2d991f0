import { rateLimit } from 'express-rate-limit';
import { config } from '../platform/config.ts';
import { SprigFailure } from '../platform/failure.ts';

/**
 * Puts off who asks too much, by address: `RATE_LIMIT_PER_MINUTE` sets how much. Unless set it is more than any hand and its
 * windows ask for.
 */
export const limitRate = (most = config().RATE_LIMIT_PER_MINUTE) =>
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
