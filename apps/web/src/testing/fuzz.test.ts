import { expect, test } from 'vitest';
import { fuzz } from '../../../../scripts/faults/fuzz.ts';

test('no reader breaks on 2,000 mutated inputs', { timeout: 120_000 }, async () => {
  const { tries, byReader, failures } = await fuzz(2_000, 16);
  expect(failures).toEqual([]);
  expect(tries).toBeGreaterThanOrEqual(2_000);
  expect(Object.keys(byReader)).toHaveLength(8);
});

test('a reader that breaks is told, with what makes it break again', async () => {
  const samples = [new TextEncoder().encode('kayak\ncanoe')];
  const read = (bytes: Uint8Array) => {
    if (bytes.includes(0x22)) throw new Error('a quote');
  };
  const { failures } = await fuzz(300, 1, [{ name: 'frail', samples, read }]);
  expect(failures.length).toBeGreaterThan(0);
  expect(failures[0]).toMatch(/^frail, seed 1, try \d+: a quote$/);
  expect((await fuzz(300, 1, [{ name: 'frail', samples, read }])).failures).toEqual(failures);
});
