import { ChevronRight, ChevronUp } from 'lucide-react';
import { createContext, Fragment, type ReactNode, useContext, useState } from 'react';
import { Part } from './Part.tsx';

export type YieldTerm = {
  id: string;
  figure: string;
  words: string;
  tone?: 'bad' | 'plain';
  more?: ReactNode;
};

/** What stands at the right end of a stage's yield, whatever the stage. */
export const YieldEnd = createContext<ReactNode>(null);

type Props = {
  terms: YieldTerm[];
  note?: ReactNode;
  /** Of something that is open within a stage: the stage's end is not shown. */
  isPart?: boolean;
};

/** The running sum at the foot of every stage, from what is worked on to what ships. Every term opens upwards. */
export function Yield({ terms, note, isPart = false }: Props) {
  const end = useContext(YieldEnd);
  const [open, setOpen] = useState<string | null>(null);
  const opened = terms.find(({ id }) => id === open);
  return (
    <section className="relative shrink-0 border-hair border-t bg-base-200" aria-label="Yield">
      {opened?.more && (
        <div className="absolute bottom-full left-4 mb-px max-h-80 min-w-72 overflow-auto rounded-t-md border border-hair bg-base-100 p-3 text-[12.5px]">
          <Part name={`What is behind “${opened.words}”`} of={opened.id}>
            {opened.more}
          </Part>
        </div>
      )}
      <div className="flex h-10 items-center">
        {/* What goes on beyond its end fades out. Where nothing in it takes the focus, it does: what is cut off is scrolled to by the keyboard too. */}
        <div
          className="flex h-full min-w-0 flex-1 items-center gap-1 overflow-x-auto pr-6 pl-4 [mask-image:linear-gradient(to_right,black_calc(100%-20px),transparent)]"
          {...(terms.some(({ more }) => more) ? {} : { tabIndex: 0, role: 'group', 'aria-label': 'Yield' })}
        >
          {terms.map(({ id, figure, words, tone, more }, at) => (
            <Fragment key={id}>
              {at > 0 && <ChevronRight size={14} className="shrink-0 text-faint" aria-hidden />}
              <button
                type="button"
                disabled={!more}
                aria-expanded={more ? open === id : undefined}
                data-yield={id}
                className={`flex shrink-0 items-baseline gap-1.5 rounded px-1.5 py-1 ${more ? 'cursor-pointer hover:bg-base-300' : ''}`}
                onClick={() => setOpen(open === id ? null : id)}
              >
                <span className={`font-semibold ${tone === 'bad' ? 'text-error' : ''}`}>{figure}</span>{' '}
                <span className="text-faint">{words}</span>
                {more && <ChevronUp size={12} aria-hidden className="self-center text-faint" />}
              </button>
            </Fragment>
          ))}
          <span className="ml-auto shrink-0 pl-4 text-[12.5px] text-faint">{note}</span>
        </div>
        {!isPart && end}
      </div>
    </section>
  );
}
