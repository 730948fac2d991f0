import { expect, test } from 'vitest';
import { UrlState } from './url-state.ts';

test('what was written here is no news when it arrives, late or not at all', () => {
  const followed = new UrlState('');
  followed.wrote('kayak');
  followed.wrote('kayak hire');
  // The address says what was written before the last word: nothing is put back.
  expect(followed.isNews('kayak')).toBe(false);
  followed.wrote('');
  expect(followed.isNews('kayak hire')).toBe(false);
  expect(followed.isNews('')).toBe(false);
  // Two at once: only the last arrives.
  followed.wrote('canoe');
  followed.wrote('canoe hire');
  expect(followed.isNews('canoe hire')).toBe(false);
});

test('a way back, or a link, is news', () => {
  const followed = new UrlState('kayak');
  expect(followed.isNews('kayak')).toBe(false);
  expect(followed.isNews('canoe')).toBe(true);
  followed.wrote('raft');
  expect(followed.isNews('raft')).toBe(false);
  expect(followed.isNews('canoe')).toBe(true);
  // What was written before and never arrived is news when it comes by a way back.
  followed.wrote('');
  expect(followed.isNews('kayak')).toBe(true);
  expect(followed.isNews('')).toBe(true);
});
