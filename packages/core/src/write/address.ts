import { fillLine, type Line, normalise, type TokenValues } from '../text/index.ts';

/** The URL standard's own parser, which every place that runs this has. */
declare const URL: {
  new (
    text: string,
  ): { href: string; protocol: string; hostname: string; username: string; password: string };
};

export type AddressProblem =
  | 'address-empty'
  | 'address-unreadable'
  | 'address-scheme'
  | 'address-credentials'
  | 'address-host';

export type Address =
  | { status: 'address'; href: string; host: string }
  | { status: 'problem'; code: AddressProblem };

/** Reads a web address by the URL standard and prints it again. Only http and https, and no credentials. */
export function readAddress(text: string): Address {
  if (text.trim() === '') return { status: 'problem', code: 'address-empty' };
  let url: InstanceType<typeof URL>;
  try {
    url = new URL(text.trim());
  } catch {
    return { status: 'problem', code: 'address-unreadable' };
  }
  if (url.protocol !== 'https:' && url.protocol !== 'http:')
    return { status: 'problem', code: 'address-scheme' };
  if (url.username || url.password) return { status: 'problem', code: 'address-credentials' };
  if (!/^[^.]+(\.[^.]+)+$|^localhost$/.test(url.hostname)) return { status: 'problem', code: 'address-host' };
  return { status: 'address', href: url.href, host: url.hostname.replace(/^www\./, '') };
}

/** A site as people type it, `saltmarshpaddle.example` or with its scheme; https where none is given. */
export const readSite = (text: string): Address => {
  const site = text.trim();
  return readAddress(site === '' || /^[a-z][a-z0-9+.-]*:/i.test(site) ? site : `https://${site}`);
};

/** `Two person kayak` as `two-person-kayak`. */
export const slugOf = (text: string): string =>
  normalise(text)
    .replace(/['"]/g, '')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '');

/**
 * The final URL of an ad: the line with its tokens as slugs, but for `@site`, which stands for itself. Where the
 * line begins without a scheme it is https: `@site/@keyword` is `https://saltmarshpaddle.example/red-kayak`.
 */
export function fillAddress(line: Line, values: TokenValues): Address {
  const parts = line.parts.map((part) =>
    part.kind === 'token' && part.name === 'site'
      ? ({ kind: 'text', text: values.site ?? '' } as const)
      : part,
  );
  const filled = fillLine({ parts }, values, slugOf);
  return filled === undefined ? { status: 'problem', code: 'address-empty' } : readSite(filled);
}
