import { editFacts, type Facts, readFacts } from '@sprig/contracts';
import { call } from '../data/call.ts';
import { type Document, useDocument } from '../data/document.ts';

/** The plan's facts, edited in place. */
export const useFacts = (plan: number): Document<Facts> =>
  useDocument<Facts>({
    plan,
    of: readFacts,
    read: async () => (await call(readFacts, { params: { plan } })).facts,
    write: editFacts,
  });
