import { fennelwick, harrowlight, plainOutlet, quillmere } from '@sprig/core/outlets';
import { describe, expect, test } from 'vitest';
import { askedOfSite } from './asked-of-site.ts';

const nothing = { category: '', adults: false };

describe('what the brief asks of the site', () => {
  test('an outlet without a column and without a rule asks nothing', () => {
    const bare = { ...harrowlight, adultSites: plainOutlet.adultSites };
    expect(askedOfSite([bare], nothing)).toEqual({
      goal: 'No outlet of this plan takes the goal. Where it is calls, Ship names ad groups without a phone number.',
      site: '',
      asksKind: false,
      asksAdults: false,
    });
  });

  test('a rule of an outlet is a reason to ask, and is said', () => {
    const asked = askedOfSite([harrowlight], nothing);
    expect(asked).toMatchObject({ asksKind: false, asksAdults: true });
    expect(asked.site).toContain('Sites for adults: Harrowlight takes none.');
  });

  test('where each is written', () => {
    const { goal, site, asksKind, asksAdults } = askedOfSite([plainOutlet, fennelwick, quillmere], nothing);
    expect([asksKind, asksAdults]).toEqual([true, true]);
    expect(goal).toContain('The goal is written for Plain sheets and Fennelwick.');
    expect(site).toContain('The kind of site is written for Plain sheets and Quillmere.');
    expect(site).toContain('Who it is for is written for Plain sheets and Fennelwick.');
    expect(site).toContain('Sites for adults: Fennelwick shows them in search only.');
  });

  test('what is set stays in sight where no outlet takes it', () => {
    const bare = { ...harrowlight, adultSites: plainOutlet.adultSites };
    expect(askedOfSite([bare], { category: 'Tea', adults: true })).toMatchObject({
      asksKind: true,
      asksAdults: true,
      site: expect.stringContaining('No outlet of this plan takes the kind of site.'),
    });
  });
});
