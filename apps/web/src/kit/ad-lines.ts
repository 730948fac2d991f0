import { descriptions, headlines } from '@sprig/core/write';

/** An ad's headlines and its descriptions as one reads them on; an assembled one's first three and two. */
export const adLines = (texts: Record<string, string>): { head: string; text: string } => ({
  head: headlines
    .flatMap((field) => texts[field] || [])
    .slice(0, 3)
    .join(' · '),
  text: descriptions
    .flatMap((field) => texts[field] || [])
    .slice(0, 2)
    .join(' '),
});
