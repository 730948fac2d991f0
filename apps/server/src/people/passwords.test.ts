import { expect, test } from 'vitest';
import { hashPassword, isPassword } from './passwords.ts';

test('a password is kept by argon2id: 64 MiB, four passes, salted', async () => {
  const [one, other] = await Promise.all([hashPassword('teal lantern'), hashPassword('teal lantern')]);
  for (const kept of [one, other])
    expect(kept).toMatch(/^\$argon2id\$v=19\$m=65536,t=4,p=\d+\$[\w+/]{22,}\$[\w+/]{43,}$/);
  expect(one).not.toBe(other);
  expect(await isPassword(one, 'teal lantern')).toBe(true);
  expect(await isPassword(one, 'teal lanterns')).toBe(false);
  expect(await isPassword(null, 'teal lantern')).toBe(false);
});
