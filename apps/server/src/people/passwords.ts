import { hash, type Options, verify } from '@node-rs/argon2';
import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';
import { SprigFailure } from '../platform/failure.ts';

/** Argon2id, by its number there: the enumeration that names it is for the compiler alone. */
const ARGON2ID = 2;
/** 64 MiB, four times over, by one thread: about a fifth of a second here. */
const HARDNESS: Options = { algorithm: ARGON2ID, memoryCost: 65_536, timeCost: 4, parallelism: 1 };
/** More at once would take memory and processors from everybody else. */
const AT_ONCE = 2;

let running = 0;
const waiting: (() => void)[] = [];

async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (running >= AT_ONCE) await new Promise<void>((go) => waiting.push(go));
  running++;
  try {
    return await work();
  } finally {
    running--;
    waiting.shift()?.();
  }
}

/** A password as it is kept: argon2id with a salt of its own, in the PHC form, which says how it was made. */
export const hashPassword = (password: string): Promise<string> =>
  inTurn(() => hash(password.normalize('NFC'), HARDNESS));

/** What a password is held against where there is none, so that this takes as long. */
let nobodys: Promise<string> | null = null;

/** Whether the password is the one that was kept; null, of nobody: never, as slowly as any other. */
export async function isPassword(kept: string | null, password: string): Promise<boolean> {
  nobodys ??= hashPassword(crypto.randomUUID());
  const against = kept ?? (await nobodys);
  const isRight = await inTurn(() => verify(against, password.normalize('NFC')));
  return isRight && kept !== null;
}

let guesser: ZxcvbnFactory | null = null;
/** Of the five steps of the estimate, 0 to 4: 3 stands against guesses without end of one who has the hash. */
const LEAST_STEP = 3;

/**
 * Fails where a password is one of those that are guessed first: common ones, runs of keys, repetitions, or what is known of
 * whom it is.
 * @param known such as name and e-mail address
 */
export function assertHardToGuess(password: string, known: readonly string[]): void {
  guesser ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
  const words = [
    ...known,
    ...known.flatMap((one) => one.split(/[^\p{L}\p{N}]+/u)),
    'green sprig',
    'greensprig',
  ];
  const { score } = guesser.check(
    password.slice(0, 100),
    words.filter((word) => word.length > 2),
  );
  if (score < LEAST_STEP)
    throw new SprigFailure(
      'invalid',
      'This password is among those that are guessed first. Take another one, such as four words that have nothing to do with each other.',
      { at: 'password' },
    );
}
