/** What the computations need to know of a language. Passed in, never global. */
export type LanguagePack = {
  /** BCP 47, such as `en`. */
  code: string;
  name: string;
  /** Words that carry no subject of their own; lower case. */
  functionWords: ReadonlySet<string>;
};

export const english: LanguagePack = {
  code: 'en',
  name: 'English',
  functionWords: new Set('a an the of for in on at to and or with by near from my is'.split(' ')),
};

const packs: readonly LanguagePack[] = [english];

/** The pack for a language code; English where none ships for it. */
export function languagePack(code: string): LanguagePack {
  return packs.find((pack) => pack.code === code) ?? english;
}
