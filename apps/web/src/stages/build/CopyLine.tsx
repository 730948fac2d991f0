import { editCopy, type GroupPage, readStanding } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import { call } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { refusalOf } from '../../data/run-change.ts';
import { filledLines } from '../../kit/filled-lines.ts';
import { counted } from '../../kit/format.ts';
import { LinesChip } from '../../kit/LinesChip.tsx';

/** Whether a copied ad group follows the first or has keywords of its own, which are typed or pasted. */
export function CopyLine({ plan, page }: { plan: number; page: GroupPage }) {
  const { key } = page.group;
  const isCopy = key.startsWith('x');
  const { data } = useQuery({ ...question(readStanding, { params: { plan } }), enabled: isCopy });
  const copy = data?.copies.find(({ id, of }) => `x${id}.${of}` === key);
  if (!copy) return null;
  const set = (own: 'as-is' | string[] | null) =>
    refusalOf(plan, () => call(editCopy, { params: { plan }, body: { key, own } }));
  const say = async (own: 'as-is' | null) => {
    const words = await set(own);
    if (words) toast.error(words);
    else if (own === null) toast('It follows the first again. Ctrl+Z takes it back.');
    else toast('It has its keywords for itself now. Ctrl+Z takes it back.');
  };
  const texts = [...new Set(page.rows.map(({ text }) => text))];
  const isWhole = page.rows.length === page.rowCount;
  return (
    <p className="shrink-0 border-hair border-b px-4 pb-1.5 text-[13px] leading-7">
      {copy.own ? (
        <>
          A copy with keywords of its own:{' '}
          {isWhole ? (
            <LinesChip<string[]>
              label="Keywords of its own"
              shown={counted(texts.length, 'keyword')}
              text={texts.join('\n')}
              placeholder="one keyword to a line"
              help="Keywords of the pool, one to a line. What is taken out here stays in the pool and where it stands besides."
              read={readKeywords}
              onKeep={set}
            />
          ) : (
            <span className="text-faint">too many to be typed here</span>
          )}{' '}
          <button type="button" className="btn btn-xs" onClick={() => void say(null)}>
            Follow the first again
          </button>
        </>
      ) : (
        <>
          A copy: it has the keywords of the first.{' '}
          <button type="button" className="btn btn-xs" onClick={() => void say('as-is')}>
            Stop following
          </button>
        </>
      )}
    </p>
  );
}

function readKeywords(typed: string): { value: string[] } | { words: string } {
  const lines = filledLines(typed);
  return lines.length === 0 ? { words: 'It needs a keyword at least.' } : { value: lines };
}
