import * as api from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { call, wordsOf } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { Help } from '../../frame/Help.tsx';
import { adLines } from '../../kit/ad-lines.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted, estimate, money } from '../../kit/format.ts';
import { matchWords } from '../../kit/match-words.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';
import { useExamples } from '../../pool/use-examples.ts';

type Props = { plan: api.PlanState; search: string; onClose: () => void; onOpen: (group: string) => void };

/** Type a search: which keyword answers, why, what it shows, and what stands in the way of the others. */
export function TryPanel({ plan, search, onClose, onOpen }: Props) {
  const [isMany, setMany] = useState(false);
  return (
    <Dialog title="Try a search" onClose={onClose} wide>
      <div className="mb-2 flex gap-1" role="group" aria-label="One search or many">
        {([false, true] as const).map((many) => (
          <button
            key={String(many)}
            type="button"
            aria-pressed={isMany === many}
            className={`chip ${isMany === many ? '' : 'chip-off'}`}
            onClick={() => setMany(many)}
          >
            {many ? 'a list of searches' : 'one search'}
          </button>
        ))}
      </div>
      {isMany ? <Many plan={plan} onOpen={onOpen} /> : <One plan={plan} start={search} onOpen={onOpen} />}
    </Dialog>
  );
}

const STANDING = {
  'same-exact': 'as typed',
  exact: '',
  'same-text': 'the same text',
  answers: '',
};
const LEVELS = {
  plan: 'of the plan',
  list: 'of a shared list',
  campaign: 'of the campaign',
  group: 'of the ad group',
  fence: 'a fence',
};

/** Why the winner won, as one would say it. */
export function whyWords({ wonBy, candidates }: Pick<api.TriedView, 'wonBy' | 'candidates'>): string {
  const [first] = candidates;
  if (!first || wonBy === null) return '';
  switch (wonBy) {
    case 'alone':
      return 'Nothing else can answer it.';
    case 'standing':
      if (first.standing === 'same-exact')
        return 'An exact keyword that is the search as typed goes before all others.';
      return first.standing === 'exact'
        ? 'An exact keyword goes before all but the search as typed.'
        : 'A keyword whose text is the search goes before those that only hold a part of it.';
    case 'bid':
      return 'Its bid × relevance is the highest.';
    case 'narrower':
      return 'Bid × relevance is even; the narrower match type goes first.';
    case 'text':
      return 'All else is even; the text decides by the alphabet.';
    case 'group':
      return 'All else is even; the ad group’s name decides by the alphabet. Better let one of them go.';
  }
}

function One({
  plan,
  start,
  onOpen,
}: {
  plan: api.PlanState;
  start: string;
  onOpen: (group: string) => void;
}) {
  const [typed, setTyped] = useState(start);
  const search = useDeferredValue(typed.trim());
  const { data, error, isFetching } = useQuery({
    ...question(api.trySearch, { params: { plan: plan.id }, body: { search } }),
    enabled: search !== '',
    placeholderData: keepPreviousData,
    retry: false,
  });
  const { currency } = plan.brief;
  return (
    <>
      <input
        // biome-ignore lint/a11y/noAutofocus: the panel was opened for it
        autoFocus
        aria-label="Search to try"
        className="input w-full text-[15px]"
        placeholder="Type a search, as a searcher would"
        value={typed}
        maxLength={400}
        onFocus={(event) => event.target.select()}
        onChange={({ target }) => setTyped(target.value)}
      />
      {search === '' && (
        <Help>
          Every keyword of the plan that could answer it is shown, with its bid and relevance, and what blocks
          it.
        </Help>
      )}
      {error && <p className="mt-2 text-error">{wordsOf(error)}</p>}
      {!data && isFetching && <p className="mt-2 text-faint">Reading the plan …</p>}
      {data && search !== '' && (
        <div className="mt-3" aria-live="polite">
          <Answer data={data} />
          {data.candidates.length > 0 && (
            <table className="mt-2 w-full text-[13px]">
              <thead className="text-[12px] text-faint">
                <tr>
                  <th className="text-left font-normal">Keyword</th>
                  <th className="text-left font-normal">Ad group</th>
                  <th className="text-right font-normal">Bid</th>
                  <th className="text-right font-normal">Relevance</th>
                  <th className="text-right font-normal">Together</th>
                </tr>
              </thead>
              <tbody>
                {data.candidates.map((one, at) => (
                  <tr
                    key={one.key}
                    className={`border-base-200 border-b ${one.blockedBy ? 'text-faint' : ''} ${at === 0 && !one.blockedBy ? 'bg-wash font-semibold' : ''}`}
                  >
                    <td className="max-w-56 py-1">
                      <span className="flex items-center gap-1.5">
                        <ReachBars type={one.type} />
                        <span className={`truncate ${one.blockedBy ? 'line-through' : ''}`}>{one.text}</span>
                      </span>
                      <span className="text-[11.5px] text-faint">
                        {matchWords[one.type]}
                        {STANDING[one.standing] && `, ${STANDING[one.standing]}`}
                        {one.blockedBy &&
                          `; blocked by ${one.blockedBy.text}, ${LEVELS[one.blockedBy.level]}`}
                      </span>
                    </td>
                    <td className="max-w-52">
                      <button
                        type="button"
                        className="block max-w-full truncate hover:underline"
                        onClick={() => onOpen(one.group)}
                      >
                        {one.groupName}
                      </button>
                      <span className="block truncate text-[11.5px] text-faint">{one.campaignName}</span>
                    </td>
                    <td className="text-right">{money(one.bid, currency)}</td>
                    <td
                      className="text-right"
                      title={`${one.relevance.shared} of ${one.relevance.all} stems are in both`}
                    >
                      {one.relevance.shared}/{one.relevance.all}
                    </td>
                    <td className="text-right">{estimate(one.weight, currency)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {data.candidates.length < data.candidateCount && (
            <p className="text-[12px] text-faint">
              the first {count(data.candidates.length)} of {count(data.candidateCount)}
            </p>
          )}
        </div>
      )}
    </>
  );
}

function Answer({ data }: { data: api.TriedView }) {
  const [winner] = data.candidates;
  if (!winner) return <p>No keyword of the plan answers “{data.search}”.</p>;
  if (data.wonBy === null)
    return (
      <p className="text-warning">
        {counted(data.candidateCount, 'keyword')} could answer “{data.search}”, but all of them are blocked.
      </p>
    );
  return (
    <div className="grid grid-cols-[1fr_300px] gap-4">
      <p>
        <b>{winner.text}</b> ({matchWords[winner.type]}) of <b>{winner.groupName}</b> answers “{data.search}”.{' '}
        <span className="text-faint">{whyWords(data)}</span>
      </p>
      {data.ad && (
        <div className="rounded-md border border-hair px-2.5 py-1.5 text-[12.5px]">
          <p className="font-semibold">{adLines(data.ad.texts).head}</p>
          <p className="truncate text-[11.5px] text-faint">{data.ad.finalUrl}</p>
          <p>{adLines(data.ad.texts).text}</p>
        </div>
      )}
    </div>
  );
}

function Many({ plan, onOpen }: { plan: api.PlanState; onOpen: (group: string) => void }) {
  const examples = useExamples();
  const [text, setText] = useState('');
  const [tried, setTried] = useState<api.TriedMany | null>(null);
  const [words, setWords] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const run = async () => {
    setBusy(true);
    setWords(null);
    try {
      setTried(await call(api.trySearches, { params: { plan: plan.id }, body: { text } }));
    } catch (error) {
      setWords(wordsOf(error));
    }
    setBusy(false);
  };
  return (
    <>
      <textarea
        aria-label="Searches to try"
        rows={6}
        className="textarea w-full leading-5"
        placeholder={`${examples.keyword} near me\n${examples.second}\n…`}
        value={text}
        onChange={({ target }) => setText(target.value)}
      />
      <div className="mt-1 flex items-center gap-3">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={text.trim() === '' || busy}
          onClick={() => void run()}
        >
          {busy ? 'Trying …' : 'Try them'}
        </button>
        <Help>One to a line; of pasted columns the first counts.</Help>
      </div>
      {words && (
        <p role="alert" className="mt-1 text-error">
          {words}
        </p>
      )}
      {tried && (
        <div className="mt-3 text-[13px]" aria-live="polite">
          <p>
            Of {counted(tried.searches, 'search').replace('searchs', 'searches')}{' '}
            <b>{count(tried.answered)}</b> land in {counted(tried.groupCount, 'ad group')},{' '}
            <b>{count(tried.blocked)}</b> are blocked,{' '}
            <b>{count(tried.searches - tried.answered - tried.blocked)}</b> nothing answers.
          </p>
          <div className="mt-2 grid grid-cols-2 gap-6">
            <ul>
              {tried.groups.map(({ key, name, searches, samples }) => (
                <li
                  key={key}
                  className="flex justify-between gap-2 border-base-200 border-b py-0.5"
                  title={samples.join(', ')}
                >
                  <button type="button" className="truncate hover:underline" onClick={() => onOpen(key)}>
                    {name}
                  </button>
                  <span>{count(searches)}</span>
                </li>
              ))}
            </ul>
            <div>
              <Listed title="Nothing answers" list={tried.unanswered} />
              <Listed title="Blocked" list={tried.blockedSamples} />
            </div>
          </div>
        </div>
      )}
    </>
  );
}

const Listed = ({ title, list }: { title: string; list: readonly string[] }) =>
  list.length === 0 ? null : (
    <>
      <h4 className="font-semibold">{title}</h4>
      <p className="mb-2 max-h-40 overflow-auto whitespace-pre-line text-faint">{list.join('\n')}</p>
    </>
  );
