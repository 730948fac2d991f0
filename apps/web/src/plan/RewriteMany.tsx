import { type nameScope, type Rewritable, rewriteNames } from '@sprig/contracts';
import { noRewriting, type Rewriting } from '@sprig/core/gather';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { z } from 'zod';
import { wordsOf } from '../data/call.ts';
import { question } from '../data/question.ts';
import { useWrite } from '../data/use-write.ts';
import { ChoiceChip } from '../kit/chips.tsx';
import { Dialog } from '../kit/Dialog.tsx';
import { DialogFoot } from '../kit/DialogFoot.tsx';
import { count, counted } from '../kit/format.ts';
import { RewriteSentence } from '../kit/RewriteSentence.tsx';
import { useSettled } from '../kit/use-settled.ts';

type Props = {
  plan: number;
  scope: z.input<typeof nameScope>;
  what: string;
  /** What of them can be found and replaced; the first is what it opens with. */
  choices: readonly [Rewritable, ...Rewritable[]];
  onClose: () => void;
};

const SHOWN = 14;
const TITLES: Record<Rewritable, string> = { names: 'Names', labels: 'Labels', urls: 'Final URLs' };
const CHOICES: Record<Rewritable, string> = { names: 'names', labels: 'labels', urls: 'final URLs' };
const WORDS: Record<Rewritable, string> = { names: 'name', labels: 'label list', urls: 'final URL' };
const ABOUT: Record<Rewritable, string> = {
  names:
    'Names of campaigns are told apart in the plan, those of ad groups in their campaign, whatever their case.',
  labels:
    'Each label is changed by itself. One of which nothing is left goes; two that become the same are one.',
  urls: 'Of campaigns and ad groups these are the final URLs of their ads; of keywords those that lead to a page of their own.',
};

/** Many names, labels or final URLs changed at once: each before and after, and those that can't be, before anything is done. */
export function RewriteMany({ plan, scope, what, choices, onClose }: Props) {
  const [of, setOf] = useState(choices[0]);
  const word = WORDS[of];
  const [rewriting, setRewriting] = useState<Rewriting>(noRewriting);
  const settled = useSettled(rewriting);
  const { data: would, error } = useQuery({
    ...question(rewriteNames, { params: { plan }, body: { scope, of, rewriting: settled, dry: true } }),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const { write, isBusy } = useWrite(rewriteNames, {
    said: ({ changed, refusedCount }) =>
      `Changed ${counted(changed, word)}. They are held from now on.${refusedCount > 0 ? ` ${counted(refusedCount, word)} stayed as before.` : ''}`,
  });
  const apply = async () => {
    const done = await write({ params: { plan }, body: { scope, of, rewriting, dry: false } });
    if (done) onClose();
  };
  const refused = would?.refused ?? [];
  return (
    <Dialog title={`${TITLES[of]} of ${what}`} onClose={onClose} wide>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (would && would.changed > 0 && !error && !isBusy) void apply();
        }}
      >
        {choices.length > 1 && (
          <p className="mb-2">
            In the{' '}
            <ChoiceChip
              label="What is changed"
              value={of}
              choices={choices.map((value) => ({ value, words: CHOICES[value] }))}
              onChoose={setOf}
            />
          </p>
        )}
        <RewriteSentence rewriting={rewriting} onChange={setRewriting} />
        {error && (
          <p role="alert" className="mt-1 text-[12.5px] text-error">
            {wordsOf(error)}
          </p>
        )}
        {would && !error && (
          <>
            <p role="status" className="mt-2 text-[13px]">
              {counted(would.changed, word)} of {count(would.names)} would change
              {would.refusedCount > 0 && (
                <>
                  , <b className="text-warning">{count(would.refusedCount)} can’t</b>
                </>
              )}
              .
            </p>
            {would.changed + refused.length > 0 && (
              <table className="mt-1 w-full table-fixed text-[13px]">
                <thead className="text-[12px] text-faint">
                  <tr>
                    <th className="text-left font-normal">Before</th>
                    <th className="text-left font-normal">After</th>
                  </tr>
                </thead>
                <tbody>
                  {refused.slice(0, SHOWN / 2).map(({ key, before, after, why }) => (
                    <tr key={key} className="h-6">
                      <td className="truncate text-faint">{before}</td>
                      <td className="truncate text-warning" title={`${after}: ${why}`}>
                        {why}
                      </td>
                    </tr>
                  ))}
                  {would.samples.slice(0, SHOWN).map(({ key, before, after }) => (
                    <tr key={key} className="h-6">
                      <td className="truncate text-faint">{before}</td>
                      <td className="truncate font-semibold">{after}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
            {would.changed > SHOWN && (
              <p className="text-[12px] text-faint">and {count(would.changed - SHOWN)} more</p>
            )}
          </>
        )}
        <DialogFoot
          words={`Change ${counted(would?.changed ?? 0, word)}`}
          isOff={!would || would.changed === 0 || error !== null || isBusy || settled !== rewriting}
          onLeave={onClose}
        />
      </form>
      <p className="mt-2 text-[12.5px] text-faint">
        {ABOUT[of]} What is changed is held: it stays when the rules move, until it is let go. Keywords and
        bids stay as they are. One step of undo takes all of it back.
      </p>
    </Dialog>
  );
}
