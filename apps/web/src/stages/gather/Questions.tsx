import type { ReadOptions } from '@sprig/core/gather';
import { count, counted } from '../../kit/format.ts';
import type { ReadSummary } from '../../pool/worker.ts';

type Props = { summary: ReadSummary; options: ReadOptions; onOptions: (options: ReadOptions) => void };

/** What has to be said before a list goes in, since both readings stand; and what is offered. */
export function Questions({ summary, options, onOptions }: Props) {
  const { open, commaLines, commasPart } = summary.layout;
  const decide = (decided: ReadOptions) => onOptions({ ...options, ...decided });
  if (open.length === 0 && commaLines === 0) return null;
  return (
    <section aria-label="To be said first" className="mb-3 flex flex-col gap-2">
      {open.includes('decimal') && (
        <Question words="Figures such as 1.300 can be read in two ways here. The decimals stand after">
          <Choice words="a point: 1.300 is 1.3" onChoose={() => decide({ decimal: '.' })} />
          <Choice words="a comma: 1.300 is 1300" onChoose={() => decide({ decimal: ',' })} />
        </Question>
      )}
      {open.includes('bullets') && (
        <Question words="Some lines begin with “- ”. It is">
          <Choice words="a bullet" onChoose={() => decide({ bullets: true })} />
          <Choice words="the mark of a negative keyword" onChoose={() => decide({ bullets: false })} />
        </Question>
      )}
      {commaLines > 0 && (
        <p className="flex flex-wrap items-center gap-2">
          <span>
            {counted(commaLines, 'line')} {commaLines === 1 ? 'holds' : 'hold'} several words between commas.
          </span>
          <Choice
            words={commasPart ? 'Take each line as it is' : 'Take each as a keyword of its own'}
            onChoose={() => decide({ commasPart: !commasPart })}
          />
        </p>
      )}
    </section>
  );
}

function Question({ words, children }: { words: string; children: React.ReactNode }) {
  return (
    <p role="alert" className="flex flex-wrap items-center gap-2 border-warning border-l-2 pl-3">
      <span>{words}</span>
      {children}
    </p>
  );
}

function Choice({ words, onChoose }: { words: string; onChoose: () => void }) {
  return (
    <button type="button" className="btn btn-xs font-normal" onClick={onChoose}>
      {words}
    </button>
  );
}

/** Lines above the headings and totals: shown, kept with the source, and taken in where they are keywords. */
export function SetAsideLines({ summary, options, onOptions }: Props) {
  const { setAside, setAsideCount } = summary;
  if (setAsideCount === 0) return null;
  return (
    <section aria-label="Set aside" className="mt-4">
      <h3 className="mb-1 font-semibold">
        {counted(setAsideCount, 'line')} set aside, and kept with the source
      </h3>
      <ul className="max-h-40 divide-y divide-base-200 overflow-auto border-hair border-y">
        {setAside.map(({ line, raw, why }) => (
          <li key={line} className="grid grid-cols-[64px_1fr_auto] items-center gap-x-2 py-1">
            <span className="text-right text-faint">Line {count(line)}</span>
            <span className="min-w-0 truncate">
              {raw}{' '}
              <span className="text-faint">
                {why === 'title' ? 'above the headings' : 'looks like a total'}
              </span>
            </span>
            <button
              type="button"
              className="btn btn-xs font-normal"
              onClick={() => onOptions({ ...options, taken: [...(options.taken ?? []), line] })}
            >
              Take in as a keyword
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
