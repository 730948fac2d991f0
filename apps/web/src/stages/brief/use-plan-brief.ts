import { type Brief, editBrief, openPlan } from '@sprig/contracts';
import { call } from '../../data/call.ts';
import { type Document, useDocument } from '../../data/document.ts';

/** The plan's name, site, currency and language, edited in place. */
export const usePlanBrief = (plan: number): Document<Brief> =>
  useDocument<Brief>({
    plan,
    of: openPlan,
    read: async () => (await call(openPlan, { params: { plan } })).brief,
    write: editBrief,
  });
