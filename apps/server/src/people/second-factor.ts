import { randomInt } from 'node:crypto';
import { generateSecret, generateURI, verifySync } from 'otplib';
import { keyOf } from './secrets.ts';

const STEP_S = 30;
/** A clock may be half a minute off. */
const TOLERANCE_S = 30;
const RECOVERY_CODES = 10;
/** Letters and digits that can't be taken for one another. */
const SIGNS = 'abcdefghjkmnpqrstuvwxyz23456789';

export const newSecret = (): string => generateSecret({ length: 20 });

/** What an authenticator reads. */
export const uriOf = (secret: string, email: string): string =>
  generateURI({ secret, label: email, issuer: 'Green Sprig' });

/**
 * The step of time whose code this is (TOTP of RFC 6238, six digits, 30 s); null: it is none, or one whose step is not after
 * `last`, which was used already.
 */
export function stepOfCode(secret: string, code: string, last: number, now: Date): number | null {
  if (!/^\d{6}$/.test(code)) return null;
  const epoch = Math.floor(now.getTime() / 1_000);
  const told = verifySync({ secret, token: code, epoch, epochTolerance: TOLERANCE_S });
  if (!told.valid) return null;
  const step = Math.floor(epoch / STEP_S) + told.delta;
  return step > last ? step : null;
}

/** Codes for when the authenticator is lost, to be shown once; what is kept of them are `keyOf` each. */
export const newRecoveryCodes = (): string[] =>
  Array.from({ length: RECOVERY_CODES }, () =>
    Array.from(
      { length: 12 },
      (_, at) => `${at > 0 && at % 4 === 0 ? '-' : ''}${SIGNS[randomInt(SIGNS.length)]}`,
    ).join(''),
  );

/** As they are kept, without hyphens. */
export const recoveryKey = (code: string): string => keyOf(code.replaceAll('-', ''));
