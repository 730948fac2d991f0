import {
  listReadBackRows,
  type ReadBack,
  readBackResult,
  startReadBack,
  type TakeOptions,
  type TakeResult,
  takeReadBack,
  takeResult,
  viewReadBack,
} from '@sprig/contracts';
import type { CellValue } from '@sprig/core/outlets';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call, wordsOf } from '../../data/call.ts';
import { readChanged } from '../../data/changed.ts';
import { fetchChanged } from '../../data/fetch-again.ts';
import { finishJob, useJob } from '../../data/jobs.ts';
import { queryClient } from '../../data/query-client.ts';
import { questionsOf } from '../../data/query-key.ts';
import { question } from '../../data/question.ts';
import { uploadTo } from '../../data/upload.ts';
import { unpackSheets } from '../../pool/unpack-sheets.ts';
import { poolWorker } from '../../pool/use-pool.ts';

export type Reading = {
  files: { upload: string; name: string }[];
  by: string;
  columns: Record<string, CellValue | null>;
};

/** The sheets that wait to be taken in, and what can be done with them. */
export function useReadBack(plan: number) {
  const [job, setJob] = useState<string | null>(null);
  const [phase, setPhase] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const [taken, setTaken] = useState<TakeResult | null>(null);
  const { data: running } = useJob(plan, job);
  const waiting = question(viewReadBack, { params: { plan } });
  const { data, isPending } = useQuery(waiting);
  const readBack = data?.readBack ?? null;
  const run = async <T>(words: string, work: () => Promise<T>): Promise<T | null> => {
    setRefusal(null);
    setPhase(words);
    try {
      return await work();
    } catch (error) {
      setRefusal(wordsOf(error));
      return null;
    } finally {
      setJob(null);
      setPhase(null);
    }
  };
  const finish = async (started: string) => {
    setJob(started);
    const done = await finishJob(plan, started);
    if (done.status === 'stopped') throw new Error('Stopped. The plan is as it was.');
    return done.result;
  };
  const read = (reading: Reading) =>
    run('Reading the sheets', async () => {
      const { job: started } = await call(startReadBack, {
        params: { plan },
        body: { files: reading.files, by: reading.by, columns: reading.columns },
      });
      readBackResult.parse(await finish(started));
      setTaken(null);
      await fetchChanged(queryClient, plan, new Set(['read-back']));
    });
  const choose = (files: readonly File[]) =>
    run('Sending the sheets', async () => {
      const sheets = await unpackSheets(files, poolWorker(plan));
      const sent: Reading['files'] = [];
      for (const { name, body } of sheets)
        sent.push({ upload: await uploadTo(plan, body), name: name.slice(0, 300) });
      return sent;
    }).then((sent) => (sent ? read({ files: sent, by: 'best', columns: {} }) : null));
  const take = (sheets: ReadBack, options: TakeOptions) =>
    run('Taking them in', async () => {
      const { job: started } = await call(takeReadBack, {
        params: { plan, readBack: sheets.id },
        body: options,
      });
      const result = takeResult.parse(await finish(started));
      setTaken(result);
      queryClient.setQueryData(waiting.queryKey, { readBack: null });
      queryClient.removeQueries({ queryKey: questionsOf(listReadBackRows, plan) });
      await readChanged(plan);
      return result;
    });
  return { readBack, isPending, job, running, phase, refusal, taken, choose, read, take };
}
