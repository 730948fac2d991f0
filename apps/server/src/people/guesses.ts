import { createHash } from 'node:crypto';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import type { Sequelize } from 'sequelize';
import { SprigFailure } from '../platform/failure.ts';

const MINUTE_S = 60;

/**
 * How many wrong tries there may be: for one account from one address, for one account from everywhere, and from one address for
 * all accounts. What is counted lies in the database, so that it holds over all processes and a start anew.
 */
const LIMITS = {
  pair: { points: 10, duration: 15 * MINUTE_S },
  account: { points: 100, duration: 24 * 60 * MINUTE_S },
  address: { points: 300, duration: 15 * MINUTE_S },
} as const;
type Limit = keyof typeof LIMITS;

/** Of an account's name no more is kept than tells it again. */
const hashed = (text: string) => createHash('sha256').update(text).digest('base64url').slice(0, 22);

/** Holds whoever guesses passwords or codes, or asks for mails without end. */
export class Guesses {
  private readonly limiters: Record<Limit, RateLimiterPostgres>;

  constructor(database: Sequelize) {
    const limiterOf = (name: Limit) =>
      new RateLimiterPostgres({
        storeClient: database,
        storeType: 'sequelize',
        tableName: 'attempts',
        tableCreated: true,
        clearExpiredByTimeout: false,
        keyPrefix: name,
        ...LIMITS[name],
      });
    this.limiters = { pair: limiterOf('pair'), account: limiterOf('account'), address: limiterOf('address') };
  }

  /**
   * Counts a try before it is looked at, so that many at once are not let through together. Answers how to take it back where
   * it was right. Fails where there were too many, whether this one is right or not.
   * @param what is tried, such as `password`
   * @param account whose it is: an e-mail address, whether it is known or not
   */
  async count(what: string, account: string, address: string): Promise<() => Promise<void>> {
    // The narrowest first: one account that is guessed at does not keep all others from the same address out.
    const pair = `${what} ${hashed(account)} ${address}`;
    const keys: [Limit, string][] = [
      ['pair', pair],
      ['account', `${what} ${hashed(account)}`],
      ['address', `${what} ${address}`],
    ];
    for (const [limit, key] of keys) {
      try {
        await this.limiters[limit].consume(key);
      } catch (error) {
        if (error instanceof RateLimiterRes) throw tooMany(error.msBeforeNext);
        throw error;
      }
    }
    return async () => {
      for (const [limit, key] of keys) await this.limiters[limit].reward(key);
      // Who knows it has mistyped before.
      await this.limiters.pair.delete(pair);
    };
  }
}

const tooMany = (ms: number) => {
  const minutes = Math.max(1, Math.ceil(ms / 60_000));
  return new SprigFailure(
    'too-many',
    `That was tried too often. Try again in ${minutes === 1 ? 'a minute' : `${minutes} minutes`}.`,
  );
};
