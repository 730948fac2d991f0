/** What a place of a name is: told by the standard's own lists of countries and of their parts. */
type KnownLevel = 'country' | 'region';

const LANGUAGES = ['en', 'de', 'fr', 'es', 'it', 'nl', 'pt', 'pl'];
const keyOf = (name: string): string => name.normalize('NFC').trim().toLowerCase();

/** All two-letter codes of which the platform knows a country's name. */
function countryNames(): Set<string> {
  const letters = Array.from('ABCDEFGHIJKLMNOPQRSTUVWXYZ');
  const codes = letters.flatMap((first) => letters.map((second) => first + second));
  const names = LANGUAGES.flatMap((language) => {
    const told = new Intl.DisplayNames([language], { type: 'region', fallback: 'none' });
    return codes.flatMap((code) => told.of(code) ?? []);
  });
  return new Set(names.map(keyOf));
}

let countries: ReadonlySet<string> | null = null;
let regions: ReadonlySet<string> = new Set();

/** The list of regions is long, and loaded where places are typed. Until it is there, regions are asked about. */
export async function loadRegions(): Promise<void> {
  const { iso31662 } = await import('iso-3166');
  regions = new Set(iso31662.map(({ name }) => keyOf(name)));
}

/** Whether a name is a country's or a large region's; null where neither is known, or both. */
export function knownLevel(name: string): KnownLevel | null {
  countries ??= countryNames();
  const key = keyOf(name);
  const isCountry = countries.has(key);
  if (isCountry === regions.has(key)) return null;
  return isCountry ? 'country' : 'region';
}
