/** The time every entry of a zip carries: the same contents give the same bytes. */
export const ZIP_TIME = new Date(1980, 0, 1);

/** A file name made of the plan's: letters, digits and hyphens of any script. */
export const fileSafe = (name: string): string =>
  name
    .normalize('NFC')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60) || 'plan';
