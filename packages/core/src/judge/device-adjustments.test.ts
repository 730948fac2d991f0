import { expect, test } from 'vitest';
import { deviceAdjustment, deviceNamed } from './index.ts';

test.each([
  ['Mobile phones', 'phone'],
  ['Smartphone', 'phone'],
  ['Handys', 'phone'],
  ['Móvil', 'phone'],
  ['Mobile devices with full browsers', 'phone'],
  ['Tablets with full browsers', 'tablet'],
  ['Mobile tablets', 'tablet'],
  ['Computers', 'desktop'],
  ['Ordinateurs', 'desktop'],
  ['PC', 'desktop'],
  ['Television screens', null],
  ['', null],
])('%s is %s', (name, device) => {
  expect(deviceNamed(name)).toBe(device);
});

test.each([
  // Half as many buy there: half is bid, by steps of 30%.
  [0.02, 0.04, 0, 100, -5_000],
  [0.02, 0.04, 0, 30, -3_000],
  [0.02, 0.04, -3_000, 30, -5_000],
  [0.06, 0.04, 0, 30, 3_000],
  [0.06, 0.04, 3_000, 30, 5_000],
  [0, 0.04, -8_900, 100, -9_000],
  [1, 0.001, 50_000, 900, 90_000],
  [0.05, 0, 0, 30, 0],
])('a rate of %f against %f, at %i now, by at most %i percent is %i', (rate, all, now, most, adjustment) => {
  expect(deviceAdjustment(rate, all, now, most)).toBe(adjustment);
});
