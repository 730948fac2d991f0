import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { root } from '../setup/root.mjs';
import { faults } from './faults.mjs';

test.each(faults)('a fault can be put in: $name', ({ file, find, put }) => {
  const text = readFileSync(join(root, file), 'utf8');
  expect(text.split(find)).toHaveLength(2);
  expect(put).not.toBe(find);
});
