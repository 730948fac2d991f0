import { type AdField, headlines } from './fields.ts';

const BETWEEN = ' | ';

/** What an ad is called in reports: all its headlines. */
export const adName = (texts: Readonly<Partial<Record<AdField, string>>>): string =>
  headlines.flatMap((field) => texts[field] || []).join(BETWEEN);

/** What else it may be called: its first headline, its first two, and so on; an outlet may take fewer than it has. */
export function adNames(name: string): string[] {
  const parts = name.split(BETWEEN);
  return parts.map((_, at) => parts.slice(0, at + 1).join(BETWEEN));
}
