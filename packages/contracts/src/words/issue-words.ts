import type { z } from 'zod';

const KINDS: Record<string, string> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  object: 'a group of fields',
  record: 'a group of fields',
  null: 'nothing (null)',
  date: 'a date',
};
const kindOf = (name: string): string => KINDS[name] ?? 'something else';
const shown = (value: unknown): string => (typeof value === 'string' ? `“${value}”` : String(value));
const plural = (count: unknown, one: string, many: string): string =>
  `${Number(count).toLocaleString('en')} ${Number(count) === 1 ? one : many}`;

/** How much of what a bound speaks of. */
function amountOf(origin: string, bound: unknown): string {
  if (origin === 'string') return plural(bound, 'character', 'characters');
  if (origin === 'array' || origin === 'set') return plural(bound, 'entry', 'entries');
  return Number(bound).toLocaleString('en', { maximumFractionDigits: 6 });
}

/** What is wrong with a value, where its schema has no words of its own: what it has to be. */
export function issueWords(issue: z.core.$ZodRawIssue): string | undefined {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined ? 'It is missing.' : `It has to be ${kindOf(issue.expected)}.`;
    case 'invalid_value':
      return issue.values.length === 1
        ? `It has to be ${shown(issue.values[0])}.`
        : `It has to be one of ${issue.values.map(shown).join(', ')}.`;
    case 'too_small':
      return `It has to be ${issue.inclusive === false ? 'more than' : 'at least'} ${amountOf(issue.origin, issue.minimum)}.`;
    case 'too_big':
      return `It may be ${issue.inclusive === false ? 'less than' : 'at most'} ${amountOf(issue.origin, issue.maximum)}.`;
    case 'unrecognized_keys':
      return `There is no such field: ${issue.keys.map(shown).join(', ')}.`;
    case 'not_multiple_of':
      return `It has to be a multiple of ${issue.divisor}.`;
    case 'invalid_format':
      return `It is not written as it has to be${issue.format === 'regex' ? '' : ` (${issue.format})`}.`;
    case 'invalid_union':
      return 'It is none of what may stand here.';
    case 'invalid_key':
    case 'invalid_element':
      return 'Something in it can’t be read.';
    default:
      return undefined;
  }
}
