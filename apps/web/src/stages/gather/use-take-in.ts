import { importResult, startImport } from '@sprig/contracts';
import { useState } from 'react';
import { toast } from 'sonner';
import { call, wordsOf } from '../../data/call.ts';
import { readChanged } from '../../data/changed.ts';
import { finishJob } from '../../data/jobs.ts';
import { uploadTo } from '../../data/upload.ts';
import { count, counted } from '../../kit/format.ts';
import { figuresWords } from './take-in-words.ts';
import type { GivenList, Taking } from './use-given-list.ts';

type As = { name: string; onlyFigures: boolean; figuresOn: string };

/** Sends a list in and waits for it; it is over when `onDone` is called, else the words of a refusal stand there. */
export function useTakeIn(plan: number, taking: Taking, list: GivenList, onDone: () => void) {
  const [job, setJob] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const takeIn = async ({ name, onlyFigures, figuresOn }: As) => {
    setRefusal(null);
    try {
      list.remember();
      const upload = await uploadTo(plan, list.body());
      const source = name.trim() || `Paste of ${counted(list.summary?.counts.lines ?? 0, 'line')}`;
      const started = await call(startImport, {
        params: { plan },
        body: {
          upload,
          kind: onlyFigures ? 'figures' : taking.kind,
          name: source,
          options: list.asked,
          figuresOn: figuresOn === '' ? null : figuresOn,
        },
      });
      setJob(started.job);
      const done = await finishJob(plan, started.job);
      if (done.status === 'stopped') {
        setJob(null);
        return setRefusal('Stopped. Nothing went in; the list is still here.');
      }
      const { figures, added, alreadyThere, byHand } = importResult.parse(done.result);
      await readChanged(plan);
      const kept =
        byHand > 0 ? ` ${counted(byHand, 'keyword')} kept the match types that were set by hand.` : '';
      const there = alreadyThere ? `, ${count(alreadyThere)} were there` : '';
      toast(
        figures
          ? figuresWords(figures)
          : `${counted(added, 'keyword')} went in${there}.${kept} Ctrl+Z takes it back.`,
      );
      onDone();
    } catch (failure) {
      setJob(null);
      setRefusal(wordsOf(failure));
    }
  };
  return { job, refusal, takeIn };
}
