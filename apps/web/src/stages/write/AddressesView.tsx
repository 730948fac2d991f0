import { checkAddresses, lineWords, listAddresses, type PlanState, stopJob } from '@sprig/contracts';
import { type AddressRule, slugOf } from '@sprig/core/write';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import type { z } from 'zod';
import { call, wordsOf } from '../../data/call.ts';
import { fetchAgain } from '../../data/fetch-again.ts';
import { finishJob, useJob } from '../../data/jobs.ts';
import { queryClient } from '../../data/query-client.ts';
import { questionsOf } from '../../data/query-key.ts';
import { question } from '../../data/question.ts';
import { Help } from '../../frame/Help.tsx';
import { TextChip } from '../../kit/chips.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { count, counted, time } from '../../kit/format.ts';
import { Progress } from '../../kit/Progress.tsx';
import { useExamples } from '../../pool/use-examples.ts';
import { useWorked } from '../../pool/use-pool.ts';
import type { WritingState } from './use-writing.ts';

type Props = { plan: PlanState; writing: WritingState; themes: readonly { id: number; name: string }[] };

const readLine = (typed: string) => {
  const words = lineWords(typed);
  return words ? { words } : { value: typed.trim() };
};
/** More rows than this are not shown at once. */
const SHOWN = 500;

/** How final URLs are made, and what came of asking each of them. */
export function AddressesView({ plan, writing, themes }: Props) {
  const { document, pool } = writing;
  const rule = document.value?.address;
  const kept = document.kept?.address;
  const { data: counts } = useWorked(
    async () => (rule ? await pool.worker.addressCounts(rule) : null),
    `addresses:${JSON.stringify(rule)}:${writing.fit?.groups}:${plan.builtRevision}:${plan.brief.site}`,
  );
  const { data: list } = useQuery({
    ...question(listAddresses, { params: { plan: plan.id } }),
    placeholderData: keepPreviousData,
  });
  const [jobId, setJob] = useState<string | null>(null);
  const { data: job } = useJob(plan.id, jobId);
  const check = async () => {
    try {
      const started = await call(checkAddresses, { params: { plan: plan.id } });
      setJob(started.job);
      const ended = await finishJob(plan.id, started.job);
      const { asked, sound } = (ended.result ?? { asked: 0, sound: 0 }) as { asked: number; sound: number };
      if (ended.status === 'done')
        toast(`Asked ${counted(asked, 'address')}: ${count(sound)} open, ${count(asked - sound)} do not.`);
    } catch (error) {
      toast.error(wordsOf(error));
    }
    setJob(null);
    await fetchAgain(queryClient, { queryKey: questionsOf(listAddresses, plan.id) });
  };
  if (!rule || !kept) return <div className="flex-1" />;
  const addresses = list?.addresses ?? [];
  const never = addresses.filter(({ checkedAt }) => checkedAt === null).length;
  return (
    <div className="min-h-0 flex-1 overflow-auto px-4 py-3">
      <RuleSentences document={document} kept={kept} themes={themes} counts={counts ?? null} />
      <section aria-label="Addresses" className="mt-4">
        <div className="flex items-center gap-3 border-hair border-b pb-1.5">
          <h2 className="font-semibold">{counted(list?.total ?? 0, 'address')}</h2>
          {never > 0 && <span className="text-faint">{count(never)} never asked</span>}
          <button
            type="button"
            className="btn btn-sm ml-auto"
            disabled={jobId !== null || addresses.length === 0}
            onClick={() => void check()}
          >
            Check {counted(Math.min(list?.total ?? 0, 5_000), 'address')}
          </button>
          {job && jobId && (
            <Progress
              words={job.phase || 'waiting'}
              done={job.done}
              total={job.total}
              onStop={() => void call(stopJob, { params: { plan: plan.id, job: jobId } })}
            />
          )}
        </div>
        <AddressList addresses={addresses} total={list?.total ?? 0} />
      </section>
    </div>
  );
}

const opens = (status: number | null): boolean => status !== null && status < 400;

type RuleProps = {
  document: WritingState['document'];
  kept: AddressRule;
  themes: Props['themes'];
  counts: { distinct: number; bad: number; sample: string | null } | null;
};

/** How final URLs are made, as sentences whose words are the settings. */
function RuleSentences({ document, kept, themes, counts }: RuleProps) {
  const examples = useExamples();
  const chip = (name: keyof Omit<AddressRule, 'themes'>, label: string, empty: string) => (
    <TextChip
      label={label}
      value={kept[name]}
      shown={kept[name] || empty}
      width={22}
      read={readLine}
      onDraft={(value) => document.draft(`address.${name}`, value)}
      onUndraft={document.undraft}
      onKeep={(value) => document.edit(`address.${name}`, value)}
    />
  );
  const setThemes = async (next: AddressRule['themes']) => {
    const words = await document.edit('address.themes', next);
    if (words) toast.error(words);
    return words;
  };
  return (
    <section aria-label="Rule" className="flex flex-col gap-2 text-[14px]">
      <p>
        Every ad leads to {chip('base', 'Base of final URLs', 'no base')} with the path{' '}
        {chip('path', 'Path of final URLs', 'none')}, parameters{' '}
        {chip('parameters', 'Parameters of final URLs', 'none')}, and phones to{' '}
        {chip('mobile', 'Base for phones', 'the same')}.
      </p>
      <p>
        Keywords lead {kept.keywords === '' ? 'where their ads do' : 'to the base'}; a path of their own is{' '}
        {chip('keywords', 'Path of keywords', 'none')}.
      </p>
      {kept.themes.map(({ theme, path }) => (
        <p key={theme}>
          Within <b>{themes.find(({ id }) => id === theme)?.name ?? 'a theme that is gone'}</b> the path is{' '}
          <TextChip
            label="Path within the theme"
            value={path}
            width={22}
            read={readLine}
            onKeep={(value) =>
              setThemes(
                kept.themes.map((one) => (one.theme === theme ? { theme, path: String(value) } : one)),
              )
            }
          />{' '}
          <button
            type="button"
            className="text-[13px] text-faint hover:underline"
            onClick={() => void setThemes(kept.themes.filter((one) => one.theme !== theme))}
          >
            let go
          </button>
        </p>
      ))}
      <p>
        <select
          className="plain-field chip cursor-pointer text-[13px]"
          aria-label="A path for a theme"
          value=""
          onChange={({ target }) => {
            if (target.value) void setThemes([...kept.themes, { theme: Number(target.value), path: '/' }]);
          }}
        >
          <option value="">+ another path for a theme</option>
          {themes
            .filter(({ id }) => !kept.themes.some(({ theme }) => theme === id))
            .map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
        </select>
      </p>
      {counts && (
        <p className="text-[13px]">
          <b>{count(counts.distinct)}</b> different addresses
          {counts.sample && (
            <>
              , such as <span className="break-all text-faint">{counts.sample}</span>
            </>
          )}
          {counts.bad > 0 && (
            <span className="text-error">; {counted(counts.bad, 'ad group')} without a sound one</span>
          )}
        </p>
      )}
      <Help>
        Tokens become slugs in a path (<b>@keyword</b> is {slugOf(examples.keyword)}) and are escaped in
        parameters. The address is the same for all ads of a group, unless one is written by hand. A campaign
        may have a path of its own (Build, table of campaigns), and so may a single keyword (table of keyword
        rows). A path of keywords is for outlets that list a final URL with each keyword.
      </Help>
    </section>
  );
}

type ListProps = { addresses: z.output<typeof listAddresses.answer>['addresses']; total: number };

/** The addresses that ads and keywords lead to, those with a problem first. */
const AddressList = ({ addresses, total }: ListProps) => (
  <>
    {addresses.length === 0 ? (
      <Empty title="No ad leads anywhere yet">
        Set the plan’s site in the Brief, or write the base out above.
      </Empty>
    ) : (
      <table className="w-full text-[13px]">
        <thead>
          <tr className="text-left text-faint">
            <th className="py-1 font-normal">Address</th>
            <th className="w-20 text-right font-normal">Ads</th>
            <th className="w-20 text-right font-normal">Keywords</th>
            <th className="w-52 pl-6 font-normal">Answer</th>
            <th className="font-normal">Title</th>
            <th className="w-40 font-normal">Asked</th>
          </tr>
        </thead>
        <tbody>
          {addresses
            .slice(0, SHOWN)
            .map(({ address, ads, keywords, status, title, leadsTo, problem, checkedAt }) => (
              <tr key={address} className="border-base-200 border-t align-top">
                <td className="break-all py-1 pr-3">
                  {address}
                  {leadsTo && <span className="block text-[12px] text-warning">leads on to {leadsTo}</span>}
                </td>
                <td className="py-1 text-right">{count(ads)}</td>
                <td className="py-1 text-right">{count(keywords)}</td>
                <td className="py-1 pl-6">
                  {checkedAt === null && <span className="text-faint">–</span>}
                  {checkedAt !== null && opens(status) && `opens (${status})`}
                  {checkedAt !== null && !opens(status) && (
                    <span className="text-error">{problem || `does not open (${status})`}</span>
                  )}
                </td>
                <td className="py-1 pr-3">{title}</td>
                <td className="py-1 text-faint">{checkedAt ? time(checkedAt) : 'never'}</td>
              </tr>
            ))}
        </tbody>
      </table>
    )}
    {addresses.length > SHOWN && (
      <p className="text-faint">and {count(total - SHOWN)} more, those with a problem first</p>
    )}
  </>
);
