import { type AdPattern, patternOf } from './ad-pattern.ts';
import { adFields } from './fields.ts';

/** The ad pattern that a new plan starts with: it says the keyword, and the rest is to be written. */
export const firstPattern = (): AdPattern =>
  patternOf({ headline1: ['@keyword'] }, 'title', { name: 'Plain ad' });

/** Whether a pattern is still as a new plan has it. */
export function isFirstPattern({ form, status, labels, groups, outlets, split, fields }: AdPattern): boolean {
  const first = firstPattern();
  return (
    form === first.form &&
    status === first.status &&
    labels.length === 0 &&
    groups.to === 'all' &&
    outlets.length === 0 &&
    split.by === 'none' &&
    adFields.every((name) => {
      const { lines, style, kept } = first.fields[name];
      const now = fields[name];
      return now.style === style && now.kept === kept && now.lines.join('\n') === lines.join('\n');
    })
  );
}
