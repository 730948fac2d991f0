import {
  listReports,
  type ReportAccount,
  type ReportChoices,
  type ReportReading,
  reportsRead,
  startReports,
} from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call, wordsOf } from '../../data/call.ts';
import { fetchChanged } from '../../data/fetch-again.ts';
import { finishJob, useJob } from '../../data/jobs.ts';
import { queryClient } from '../../data/query-client.ts';
import { question } from '../../data/question.ts';
import { uploadTo } from '../../data/upload.ts';
import { unpackSheets } from '../../pool/unpack-sheets.ts';
import { poolWorker } from '../../pool/use-pool.ts';

type Sent = {
  upload: string;
  name: string;
  again?: string;
  account?: ReportAccount;
  choices?: ReportChoices;
};

export const useReportList = (plan: number) => useQuery(question(listReports, { params: { plan } }));

/** Reports that are read, and how far that is. */
export function useReports(plan: number) {
  const [job, setJob] = useState<string | null>(null);
  const [phase, setPhase] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const { data: running } = useJob(plan, job);
  const run = async (words: string, work: () => Promise<void>) => {
    setRefusal(null);
    setPhase(words);
    try {
      await work();
    } catch (error) {
      setRefusal(wordsOf(error));
    } finally {
      setJob(null);
      setPhase(null);
    }
  };
  const read = async (files: Sent[]) => {
    const { job: started } = await call(startReports, { params: { plan }, body: { files } });
    setJob(started);
    const done = await finishJob(plan, started);
    if (done.status === 'stopped') throw new Error('Stopped. Nothing was taken in.');
    reportsRead.parse(done.result);
    await fetchChanged(queryClient, plan, new Set(['read-back']));
  };
  return {
    job,
    running,
    phase,
    refusal,
    choose: (files: readonly File[]) =>
      run('Sending the reports', async () => {
        const sheets = await unpackSheets(files, poolWorker(plan));
        const sent: Sent[] = [];
        for (const { name, body } of sheets)
          sent.push({ upload: await uploadTo(plan, body), name: name.slice(0, 300) });
        setPhase('Reading the reports');
        await read(sent);
      }),
    paste: (text: string) =>
      run('Reading what was pasted', async () =>
        read([{ upload: await uploadTo(plan, new Blob([text])), name: 'Paste' }]),
      ),
    /** Reads one again, as its user says. */
    again: (reading: ReportReading, change: { account?: ReportAccount; choices?: ReportChoices }) =>
      run('Reading it again', () =>
        read([
          {
            upload: reading.upload,
            name: reading.name,
            again: reading.id,
            account: change.account ?? reading.account,
            choices: { ...reading.choices, ...change.choices },
          },
        ]),
      ),
  };
}
