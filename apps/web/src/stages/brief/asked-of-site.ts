import type { Facts } from '@sprig/contracts';
import { type CellValue, networkNames, type Outlet, tells } from '@sprig/core/outlets';

/** What is asked of the site as a whole: only what an outlet of the plan writes or has a rule for, or what is set already. */
export type AskedOfSite = {
  /** Where the goal is used, and where what is said of the site is. */
  goal: string;
  site: string;
  asksKind: boolean;
  asksAdults: boolean;
};

export function askedOfSite(
  outlets: readonly Outlet[],
  { category, adults }: Pick<Facts, 'category' | 'adults'>,
): AskedOfSite {
  const telling = (value: CellValue) =>
    outlets.filter((outlet) => tells(outlet, 'campaign', value)).map(({ name }) => name);
  const goal = telling('goal');
  const kind = telling('site-kind');
  const audience = telling('audience');
  const ruled = outlets.filter(
    ({ adultSites }) => !adultSites.taken || adultSites.networks.length < networkNames.length,
  );
  const asksKind = kind.length > 0 || category !== '';
  const asksAdults = audience.length > 0 || ruled.length > 0 || adults;
  const written = (what: string, names: readonly string[]) =>
    names.length > 0
      ? `${what} is written for ${listed(names)}.`
      : `No outlet of this plan takes ${what.toLowerCase()}.`;
  return {
    goal: `${written('The goal', goal)} Where it is calls, Ship names ad groups without a phone number.`,
    site: [
      asksKind ? written('The kind of site', kind) : '',
      asksAdults ? written('Who it is for', audience) : '',
      ruled.length > 0 ? `Sites for adults: ${listed(ruled.map(ruleWords))}.` : '',
    ]
      .filter((sentence) => sentence !== '')
      .join(' '),
    asksKind,
    asksAdults,
  };
}

const ruleWords = ({ name, adultSites: { taken, networks } }: Outlet): string =>
  taken
    ? `${name} shows them ${networks.length === 1 ? `in ${networks[0]} only` : `in ${listed(networks)}`}`
    : `${name} takes none`;

/** `a`, `a and b`, `a, b and c`. */
const listed = (names: readonly string[]): string =>
  new Intl.ListFormat('en-GB', { type: 'conjunction' }).format(names);
