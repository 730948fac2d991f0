import { fennelwick, harrowlight, plainOutlet, quillmere } from '@sprig/core/ship';
import { describe, expect, test } from 'vitest';
import { askedOfSite } from './asked-of-site.ts';

const nothing = { category: '', adults: false };

describe('what the brief asks of the site', () => {
  test('an outlet without a column and without a rule asks nothing', () => {
    const bare = { ...harrowlight, adultSites: plainOutlet.adultSites };
    expect(askedOfSite([bare], nothing)).toEqual({
      use: 'Where calls are the goal, Ship names ad groups without a phone number. No outlet of this plan takes the goal.',
      asksKind: false,
      asksAdults: false,
    });
  });

  test('a rule of an outlet is a reason to ask, and is said', () => {
    const asked = askedOfSite([harrowlight], nothing);
    expect(asked).toMatchObject({ asksKind: false, asksAdults: true });
    expect(asked.use).toContain('Sites for adults: Harrowlight takes none.');
  });

  test('where each is written', () => {
    const { use, asksKind, asksAdults } = askedOfSite([plainOutlet, fennelwick, quillmere], nothing);
    expect([asksKind, asksAdults]).toEqual([true, true]);
    expect(use).toContain('The goal is written for Plain sheets and Fennelwick.');
    expect(use).toContain('The kind of site is written for Plain sheets and Quillmere.');
    expect(use).toContain('Who it is for is written for Plain sheets and Fennelwick.');
    expect(use).toContain('Sites for adults: Fennelwick shows them in search only.');
  });

  test('what is set stays in sight where no outlet takes it', () => {
    const bare = { ...harrowlight, adultSites: plainOutlet.adultSites };
    expect(askedOfSite([bare], { category: 'Tea', adults: true })).toMatchObject({
      asksKind: true,
      asksAdults: true,
      use: expect.stringContaining('No outlet of this plan takes the kind of site.'),
    });
  });
});
