import { useLocation } from 'react-router';
import { aboutHere, fieldAbout, fieldLabel } from './field-in-hand.ts';
import type { Somebody } from './presence.ts';

/** Of text between quotation marks in a rule. */
const quoted = (text: string): string =>
  `"${[...text].map((sign) => (/[\p{L}\p{N} ]/u.test(sign) ? sign : `\\${sign.codePointAt(0)?.toString(16)} `)).join('')}"`;

/** The fields that others write in, by their names: as they stand when they are open, and shut. */
function rulesOf(others: readonly Somebody[], place: string, search: string): string {
  const here = aboutHere(search);
  return others
    .filter((one) => one.field !== '' && one.place === place && fieldAbout(one.field) === here)
    .map((one) => {
      const label = fieldLabel(one.field);
      const names = [`[aria-label=${quoted(`Edit ${label}`)}]`, `[aria-label=${quoted(label)}]`];
      const all = names.map((name) => `main ${name}`).join(', ');
      return `${all} { outline: 2px dashed var(--color-info); outline-offset: 1px; border-radius: 3px; }`;
    })
    .join('\n');
}

/** Marks the fields of this screen that others are writing in, wherever they are drawn. */
export function EditedElsewhere({ others, place }: { others: readonly Somebody[]; place: string }) {
  const { search } = useLocation();
  const rules = rulesOf(others, place, search);
  return rules === '' ? null : <style>{rules}</style>;
}
