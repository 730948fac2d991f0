import { editLayout, readLayout } from '@sprig/contracts';
import type { Layout } from '@sprig/core/build';
import { call } from '../data/call.ts';
import { type Document, useDocument } from '../data/document.ts';

/** The plan's build rules, edited in place. */
export const useLayout = (plan: number): Document<Layout> =>
  useDocument<Layout>({
    plan,
    of: readLayout,
    read: async () => (await call(readLayout, { params: { plan } })).layout,
    write: editLayout,
  });
