import type { PlanState, SharedList } from '@sprig/contracts';
import type { NegativeKeyword, NegativeType } from '@sprig/core/match';
import { useCallback, useState } from 'react';
import { useSearchParams } from 'react-router';
import { Help } from '../../frame/Help.tsx';
import { withParams } from '../../kit/address.ts';
import { Only, useMay } from '../../kit/allowed.tsx';
import { useCommands } from '../../kit/commands.ts';
import { count, counted, short } from '../../kit/format.ts';
import { useHolds } from '../../plan/use-holds.ts';
import type { PruneInput, ReviewSummary } from '../../pool/pruning.ts';
import { type usePool, useWorked } from '../../pool/use-pool.ts';
import { BalanceBar, BlockAs, WordContext } from './BalanceParts.tsx';
import { BalancePicture } from './BalancePicture.tsx';
import { balanceCommands } from './commands.ts';
import { SearchCard } from './SearchCard.tsx';
import { useJudged, type Verdict } from './use-judged.ts';
import type { BlockPlace, PruneActions } from './use-prune.ts';

type Props = {
  plan: PlanState;
  pool: ReturnType<typeof usePool>;
  input: PruneInput;
  kept: string[];
  blocking: NegativeKeyword[];
  lists: SharedList[];
  actions: PruneActions;
};

/** Words judged one by one: kept settle on the left, blocked on the right, the heaviest undecided in the middle. */
export function WordBalance({ plan, pool, input, kept, blocking, lists, actions }: Props) {
  const [params, setParams] = useSearchParams();
  const kind = params.get('by') === 'pairs' ? 'pairs' : 'words';
  const order = params.get('first') === 'keywords' ? 'keywords' : 'searches';
  const [at, setAt] = useState(0);
  const [type, setType] = useState<NegativeType>('broad');
  const [place, setPlace] = useState<string>('plan');
  const [looking, setLooking] = useState(false);
  const { holds } = useHolds(plan.id);
  const question = `${pool.revision}:${kind}:${order}:${kept.join('|')}:${blocking.map(({ id }) => id).join()}:${JSON.stringify(input.facts.functionWords)}`;
  const { data: review, busy } = useWorked(
    () => pool.worker.review(input, { kind, order }, kept, blocking),
    `balance:${question}`,
  );
  const { pending, judge } = useJudged(question, busy, review);
  const open = (review?.undecided ?? []).filter(({ text }) => !pending.has(text));
  const index = Math.min(at, Math.max(0, open.length - 1));
  const word = open[index];
  const { data: context } = useWorked(
    async () => (word ? pool.worker.context(word.text) : null),
    `context:${pool.revision}:${word?.text}`,
  );
  const held = [...new Set(holds.map(({ keywordId }) => keywordId))];
  const { data: effect } = useWorked(
    async () => (word ? pool.worker.blockEffect(word.text, type, held) : null),
    `effect:${pool.revision}:${word?.text}:${type}:${held.length}`,
  );

  const settle = useCallback(
    (text: string, verdict: Verdict, work: Promise<boolean>) => {
      setLooking(false);
      judge(text, verdict, work);
    },
    [judge],
  );
  const keep = useCallback(() => {
    if (word) settle(word.text, 'kept', actions.keep([word.text]));
  }, [word, actions, settle]);
  const block = useCallback(() => {
    if (!word) return;
    const where: BlockPlace = place.startsWith('list:') ? { list: Number(place.slice(5)) } : {};
    settle(word.text, 'blocked', actions.add([{ text: word.text, type }], 'block', where));
  }, [word, type, place, actions, settle]);
  const move = useCallback(
    (by: number) => {
      setLooking(false);
      setAt((now) => Math.max(0, Math.min(open.length - 1, Math.min(now, open.length - 1) + by)));
    },
    [open.length],
  );

  const mayBuild = useMay()('build');
  useCommands(balanceCommands, {
    keep: mayBuild ? keep : undefined,
    // On a button Enter presses it.
    block: mayBuild
      ? (event) => !(event?.key === 'Enter' && event.target instanceof HTMLButtonElement) && block()
      : undefined,
    next: () => move(1),
    back: () => move(-1),
    broad: () => setType('broad'),
    phrase: () => setType('phrase'),
    exact: () => setType('exact'),
    look: () => setLooking((now) => !now),
  });
  /** The plan's own negatives that are just this word; those of shared lists are taken off there. */
  const ownBlocks = (text: string) =>
    blocking.filter(({ id, norm }) => id > 0 && norm === text).map(({ id }) => id);

  if (!review) return <div className="grid flex-1 place-items-center text-faint">Counting words …</div>;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <BalanceBar
        kind={kind}
        order={order}
        undecided={review.undecidedCount}
        share={review.share}
        onAddress={(change) => {
          setAt(0);
          setParams((old) => withParams(old, change));
        }}
      />
      <BalancePicture
        review={review}
        pending={pending}
        current={word?.text}
        onChoose={(text) => {
          const place = open.findIndex((one) => one.text === text);
          setLooking(false);
          setAt(Math.max(0, place));
        }}
      />
      <div className="grid min-h-0 flex-1 grid-cols-[230px_1fr_230px] border-hair border-t">
        <Side
          title="Kept"
          list={review.kept}
          pending={[...pending].filter(([, verdict]) => verdict === 'kept').map(([text]) => text)}
          button="Ask again"
          onTake={(text) => void actions.askAgain([text])}
        />
        <section
          aria-label="Undecided"
          className="flex min-h-0 flex-col border-hair border-x"
          aria-busy={busy}
        >
          {word ? (
            <>
              <Middle
                words={open.slice(index, index + 5)}
                all={open.length}
                index={index}
                onKeep={keep}
                onBlock={block}
                blockWords={effect ? `Block ${counted(effect.keywords, 'keyword')}` : 'Block'}
              />
              <BlockAs
                type={type}
                onType={setType}
                place={place}
                onPlace={setPlace}
                lists={lists}
                effect={effect ?? null}
              />
              {looking ? (
                <SearchCard plan={plan} text={word.text} />
              ) : (
                <WordContext word={word.text} context={context ?? null} />
              )}
            </>
          ) : (
            <div className="p-6 text-center">
              <p className="font-semibold text-base">
                Every {kind === 'words' ? 'word' : 'two-word run'} is judged.
              </p>
              <p className="text-faint">New keywords bring new words; they will wait here.</p>
            </div>
          )}
        </section>
        <Side
          title="Blocked"
          list={review.blocked}
          pending={[...pending].filter(([, verdict]) => verdict === 'blocked').map(([text]) => text)}
          button="Unblock"
          canTake={(text) => ownBlocks(text).length > 0}
          onTake={(text) => void actions.remove(ownBlocks(text), `${text} blocks nothing any more.`)}
        />
      </div>
    </div>
  );
}

type Word = ReviewSummary['undecided'][number];

/** The word to judge, the heaviest of those that wait, with the next ones under it. */
function Middle({
  words,
  all,
  index,
  onKeep,
  onBlock,
  blockWords,
}: {
  words: Word[];
  all: number;
  index: number;
  onKeep: () => void;
  onBlock: () => void;
  blockWords: string;
}) {
  const [word, ...next] = words;
  if (!word) return null;
  return (
    <div className="px-4 py-3">
      <Only access="build" className="grid grid-cols-[1fr_auto_1fr] items-center gap-4">
        <button type="button" className="btn btn-sm justify-self-end" onClick={onKeep}>
          <span className="key">←</span> Keep
        </button>
        <div className="min-w-64 text-center" aria-live="polite">
          <p className="font-semibold text-[22px] leading-7">{word.text}</p>
          <p className="text-[12.5px] text-faint">
            {short(word.searches)} searches in {counted(word.keywords, 'keyword')} · {count(index + 1)} of{' '}
            {count(all)}
          </p>
        </div>
        <button type="button" className="btn btn-sm justify-self-start" onClick={onBlock}>
          {blockWords} <span className="key">→</span>
        </button>
      </Only>
      <p className="mt-2 truncate text-center text-[12.5px] text-faint">
        {next.length > 0 ? <>then {next.map(({ text }) => text).join(', ')} </> : null}
        <span className="key ml-2">↓</span> skip <span className="key ml-2">l</span> look up{' '}
        <span className="key ml-2">Ctrl Z</span> take back
      </p>
    </div>
  );
}

function Side({
  title,
  list,
  pending,
  button,
  canTake = () => true,
  onTake,
}: {
  title: string;
  list: Word[];
  pending: string[];
  button: string;
  canTake?: (text: string) => boolean;
  onTake: (text: string) => void;
}) {
  const settled = new Set(list.map(({ text }) => text));
  return (
    <section aria-label={title} className="flex min-h-0 flex-col px-3 py-2">
      <h3 className="mb-1 font-semibold">{title}</h3>
      <ul className="min-h-0 flex-1 overflow-auto">
        {pending
          .filter((text) => !settled.has(text))
          .map((text) => (
            <li key={`pending ${text}`} className="flex justify-between gap-2 py-0.5">
              <b className="truncate">{text}</b>
              <span className="text-faint">…</span>
            </li>
          ))}
        {list.map(({ text, searches }) => (
          <li key={text} className="group flex items-center justify-between gap-2 py-0.5">
            <span className="truncate">{text}</span>
            {canTake(text) ? (
              <button
                type="button"
                className="shrink-0 text-[12px] text-faint hover:text-base-content"
                title={button}
                aria-label={`${button}: ${text}`}
                onClick={() => onTake(text)}
              >
                {short(searches)} ×
              </button>
            ) : (
              <span className="shrink-0 text-[12px] text-faint">{short(searches)}</span>
            )}
          </li>
        ))}
      </ul>
      {list.length === 0 && pending.length === 0 && (
        <Help>
          {title === 'Kept'
            ? 'Words that belong. They are not asked again.'
            : 'Words that make another search.'}
        </Help>
      )}
    </section>
  );
}
