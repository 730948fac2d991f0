import { afterAll, beforeAll, expect, test } from 'vitest';
import { startTestServer, type TestServer } from '../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer({ runner: false });
});
afterAll(() => server.stop());

const tried = (account: string, address = '203.0.113.7') =>
  server.people.door.guesses.count('password', account, address);

test('right ones do not count, however many in a day', async () => {
  for (let times = 0; times < 120; times++) await (await tried('olive'))();
  await expect(tried('olive')).resolves.toBeTypeOf('function');
});

test('ten wrong ones end it for an account from one address, and not from another; a right one begins anew', async () => {
  for (let times = 0; times < 9; times++) await tried('tom');
  await (await tried('tom'))();
  for (let times = 0; times < 10; times++) await tried('tom');
  await expect(tried('tom')).rejects.toMatchObject({ code: 'too-many' });
  await expect(tried('tom', '203.0.113.8')).resolves.toBeTypeOf('function');
  await expect(tried('una')).resolves.toBeTypeOf('function');
});
