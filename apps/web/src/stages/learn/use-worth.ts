import { markWorth, readWorth } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';

export const useWorth = (plan: number) => useQuery(question(readWorth, { params: { plan } }));

export const useMarking = () =>
  useWrite(markWorth, {
    said: (_, { body }) => {
      if (!body?.mark) return 'It is back in the list.';
      return body.mark.until === null
        ? 'Done. It comes back if there is more of it; Ctrl+Z takes that back.'
        : 'Put off until its day. Ctrl+Z takes that back.';
    },
  });
