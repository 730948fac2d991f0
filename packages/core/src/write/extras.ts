import { lengthOf } from '../text/index.ts';
import { readAddress } from './address.ts';

export const extraKinds = ['sitelink', 'callout', 'phone'] as const;
export type ExtraKind = (typeof extraKinds)[number];

/** `at`: where it is shown, by key: `plan`, campaigns, ad groups. Kept for later where it is empty. */
export type Extra = { at: string[]; body: ExtraBody };
export type ExtraBody =
  | { kind: 'sitelink'; text: string; line1: string; line2: string; address: string }
  | { kind: 'callout'; text: string }
  | { kind: 'phone'; number: string };

/** How long extras may be at an outlet, and how many of each are shown with an ad. */
export type ExtraLimits = {
  sitelink: { text: number; line: number; most: number };
  callout: { text: number; most: number };
};

/** What an extra says, wherever it leads. */
export const textsOfExtra = (body: ExtraBody): string[] =>
  body.kind === 'phone'
    ? []
    : (body.kind === 'sitelink' ? [body.text, body.line1, body.line2] : [body.text]).filter(
        (text) => text !== '',
      );

/** What may be kept, whatever outlets have room for: what is too long for one of them is told there. */
export const anyExtraLimits: ExtraLimits = {
  sitelink: { text: 200, line: 200, most: 500 },
  callout: { text: 200, most: 500 },
};

export type ExtraProblem = { field: string; words: string };

/** What is wrong with an extra, by its fields. */
export function checkExtra(body: ExtraBody, limits: ExtraLimits): ExtraProblem[] {
  const problems: ExtraProblem[] = [];
  const fits = (field: string, text: string, limit: number, isNeeded: boolean) => {
    if (text.trim() === '' && isNeeded) problems.push({ field, words: 'It needs a text.' });
    const over = lengthOf(text.trim()) - limit;
    if (over > 0) problems.push({ field, words: `${over} too long; there is room for ${limit}.` });
  };
  switch (body.kind) {
    case 'sitelink':
      fits('text', body.text, limits.sitelink.text, true);
      fits('line1', body.line1, limits.sitelink.line, false);
      fits('line2', body.line2, limits.sitelink.line, false);
      if ((body.line1.trim() === '') !== (body.line2.trim() === ''))
        problems.push({
          field: body.line1.trim() === '' ? 'line1' : 'line2',
          words: 'A sitelink has both lines below it or none.',
        });
      if (readAddress(body.address).status === 'problem')
        problems.push({
          field: 'address',
          words: 'Not a web address. Write it like https://site.example/prices.',
        });
      break;
    case 'callout':
      fits('text', body.text, limits.callout.text, true);
      break;
    case 'phone': {
      const read = readPhone(body.number);
      if ('words' in read) problems.push({ field: 'number', words: read.words });
    }
  }
  return problems;
}

/**
 * A phone number as one may type it, and as it is shipped: digits, with a + before the country's. Spaces, dots, hyphens,
 * slashes and brackets may stand between.
 */
export function readPhone(typed: string): { number: string } | { words: string } {
  const text = typed.trim();
  if (text === '') return { words: 'It needs a number.' };
  const odd = /[^\d\s().+/-]/.exec(text);
  if (odd) return { words: `“${odd[0]}” can’t stand in a phone number.` };
  if (text.lastIndexOf('+') > 0) return { words: 'A + stands at the beginning only.' };
  if ((text.match(/\(/g) ?? []).length !== (text.match(/\)/g) ?? []).length)
    return { words: 'A bracket is missing.' };
  const hasCountry = text.startsWith('+');
  // The 0 in brackets is dialled at home only.
  const digits = (hasCountry ? text.replace(/\(0\)/, '') : text).replace(/\D/g, '');
  if (digits.length < 5 || digits.length > 15) return { words: 'A phone number has 5 to 15 digits.' };
  if (hasCountry && digits.startsWith('0')) return { words: 'No country begins with 0.' };
  if (/^(\d)\1+$/.test(digits)) return { words: 'Nobody has this number.' };
  return { number: hasCountry ? `+${digits}` : digits };
}
