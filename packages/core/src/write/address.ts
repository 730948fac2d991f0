import { fillLine, type Line, normalise, type TokenValues } from '../text/index.ts';
import { lineOf } from './ad-pattern.ts';

/** The URL standard's own parser, which every place that runs this has. */
declare const URL: {
  new (
    text: string,
    base?: string,
  ): {
    href: string;
    protocol: string;
    hostname: string;
    pathname: string;
    search: string;
    username: string;
    password: string;
  };
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

const problem = (code: AddressProblem): Address => ({ status: 'problem', code });

/**
 * Reads a web address by the URL standard and prints it again: spaces and other letters are escaped, a host in other
 * letters is in punycode. Only http and https, no credentials, and a host that has a dot.
 */
export function readAddress(text: string): Address {
  if (text.trim() === '') return problem('address-empty');
  let url: InstanceType<typeof URL>;
  try {
    url = new URL(text.trim());
  } catch {
    return problem('address-unreadable');
  }
  if (url.protocol !== 'https:' && url.protocol !== 'http:') return problem('address-scheme');
  if (url.username || url.password) return problem('address-credentials');
  if (!/^[^.]+(\.[^.]+)+\.?$|^localhost$/.test(url.hostname)) return problem('address-host');
  return { status: 'address', href: url.href, host: url.hostname.replace(/^www\./, '') };
}

/** A site as people type it, `saltmarshpaddle.example` or with its scheme; https where none is given. */
export const readSite = (text: string): Address => {
  const site = text.trim();
  return readAddress(site === '' || /^[a-z][a-z0-9+.-]*:/i.test(site) ? site : `https://${site}`);
};

/** Whether an address lies on a site, or on a part of it such as `shop.` or `m.`. */
export const isOnSite = (host: string, site: string): boolean => host === site || host.endsWith(`.${site}`);

/** `Two person kayak` as `two-person-kayak`. */
export const slugOf = (text: string): string =>
  normalise(text)
    .replace(/['"]/g, '')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '');

/**
 * How final URLs are made: `base`, then the path, then the parameters behind a `?`. A theme may have a path of its own,
 * which is for what is below it too. All are lines; tokens become slugs in the path and are escaped in parameters. `mobile` is
 * another base, for phones; empty for none. `keywords` is the path of keywords that lead to a page of their own, `@keyword`
 * being each itself; empty: they lead where their ads do.
 */
export type AddressRule = {
  base: string;
  path: string;
  themes: { theme: number; path: string }[];
  parameters: string;
  mobile: string;
  keywords: string;
};

/** A group's addresses; `mobile` is null where the rule has none. */
export type GroupAddress = { final: Address; mobile: Address | null };

export type AddressMaker = {
  /**
   * `branch` is the group's theme and those above it, the nearest first; `campaign` the default path of its campaign, a line,
   * which counts where no theme has one.
   */
  of(values: TokenValues, branch: readonly number[], campaign?: string): GroupAddress;
  /** Where a keyword leads by itself, `@keyword` among the values being that; null where the rule has no such path. */
  ofKeyword: ((values: TokenValues) => Address) | null;
};

/** Makes ready to write the addresses of many groups. */
export function addressMaker(rule: AddressRule): AddressMaker {
  const base = lineOf(rule.base);
  const mobile = rule.mobile.trim() === '' ? null : lineOf(rule.mobile);
  const parameters = lineOf(rule.parameters.trim().replace(/^[?&]+/, ''));
  const usual = lineOf(rule.path);
  const byTheme = new Map(rule.themes.map(({ theme, path }) => [theme, lineOf(path)]));
  const ofCampaigns = new Map<string, Line | null>();
  const lineOfCampaign = (path: string) => {
    const known = ofCampaigns.get(path);
    if (known !== undefined) return known;
    const line = lineOf(path);
    ofCampaigns.set(path, line);
    return line;
  };
  const ofKeywords = rule.keywords.trim() === '' ? null : lineOf(rule.keywords);
  return {
    of(values, branch, campaign) {
      const theme = branch.find((one) => byTheme.has(one));
      const inCampaign = campaign === undefined ? usual : lineOfCampaign(campaign);
      const path = theme === undefined ? inCampaign : (byTheme.get(theme) ?? null);
      const rest = restOf(path, parameters, values);
      if (rest === undefined) return { final: problem('address-empty'), mobile: null };
      return {
        final: join(base, rest, values),
        mobile: mobile ? join(mobile, rest, values) : null,
      };
    },
    ofKeyword:
      ofKeywords &&
      ((values) => {
        const rest = restOf(ofKeywords, parameters, values);
        return rest === undefined ? problem('address-empty') : join(base, rest, values);
      }),
  };
}

type Rest = { path: string; query: string };

function restOf(path: Line | null, parameters: Line | null, values: TokenValues): Rest | undefined {
  const filledPath = path && fillLine(path, values, slugOf);
  const query = parameters && fillLine(parameters, values, encodeURIComponent);
  if (filledPath === undefined || query === undefined) return undefined;
  return { path: (filledPath ?? '').trim(), query: query ?? '' };
}

function join(base: Line | null, { path, query }: Rest, values: TokenValues): Address {
  const filled = base && fillWithSite(base, values);
  if (!filled || filled.trim() === '') return problem('address-empty');
  const root = readSite(filled.trim());
  if (root.status === 'problem') return root;
  const url = new URL(root.href);
  const between = path === '' || /^[/?#]/.test(path) || url.pathname.endsWith('/') ? '' : '/';
  const whole = path.startsWith('/') ? url.href.replace(/\/$/, '') + path : url.href + between + path;
  if (query === '') return readAddress(whole);
  const [front, fragment] = splitAt(whole, '#');
  return readAddress(`${front}${front.includes('?') ? '&' : '?'}${query}${fragment}`);
}

function splitAt(text: string, mark: string): [string, string] {
  const at = text.indexOf(mark);
  return at < 0 ? [text, ''] : [text.slice(0, at), text.slice(at)];
}

/** The base with its tokens as slugs, but for `@site`, which stands for itself. */
function fillWithSite(line: Line, values: TokenValues): string | undefined {
  const parts = line.parts.map((part) =>
    part.kind === 'token' && part.name === 'site'
      ? ({ kind: 'text', text: values.site ?? '' } as const)
      : part,
  );
  return fillLine({ parts }, values, slugOf);
}

/** The rule of a plan that has none of its own. */
export const usualAddressRule = (): AddressRule => ({
  base: '@site',
  path: '',
  themes: [],
  parameters: '',
  mobile: '',
  keywords: '',
});
