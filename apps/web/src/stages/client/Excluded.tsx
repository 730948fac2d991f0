import type { ClientPage } from '@sprig/contracts';
import { count, counted } from '../../kit/format.ts';

type Props = { counts: { cut: number; blocked: number }; page: ClientPage };

/** What the plan keeps out: negative keywords, shared lists, and keywords that were looked at and left. */
export function Excluded({ counts, page }: Props) {
  const { negatives, negativeCount, lists } = page;
  const { cut, blocked } = counts;
  const more = negativeCount - negatives.length;
  if (negativeCount + lists.length + cut + blocked === 0) return null;
  return (
    <section aria-label="What is excluded" className="mt-8 border-hair border-t pt-4">
      <h2 className="font-semibold text-[18px]">What is excluded</h2>
      {negativeCount > 0 && (
        <p className="mt-1">
          No ad shows for searches with {counted(negativeCount, 'negative keyword')}: {negatives.join(', ')}
          {more > 0 ? ` and ${count(more)} more` : ''}.
        </p>
      )}
      {lists.length > 0 && (
        <p className="mt-1">
          {lists.map(({ name, negatives: own }) => `${name} (${count(own)})`).join(', ')}: lists of negative
          keywords that several plans share.
        </p>
      )}
      {cut + blocked > 0 && (
        <p className="mt-1 text-faint">
          {counted(cut + blocked, 'keyword')} of those that were gathered{' '}
          {cut + blocked === 1 ? 'was' : 'were'} left out.
        </p>
      )}
    </section>
  );
}
