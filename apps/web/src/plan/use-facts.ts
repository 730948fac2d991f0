import { editFacts, type Facts, readFacts } from '@sprig/contracts';
import { call } from '../api/call.ts';
import { type Document, useDocument } from '../api/document.ts';

/** The plan's facts, edited in place. */
export const useFacts = (plan: number): Document<Facts> =>
  useDocument<Facts>({
    plan,
    name: 'facts',
    read: async () => (await call(readFacts, { params: { plan } })).facts,
    write: editFacts,
  });
