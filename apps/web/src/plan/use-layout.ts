import { editLayout, readLayout } from '@sprig/contracts';
import type { Layout } from '@sprig/core/build';
import { call } from '../api/call.ts';
import { type Document, useDocument } from '../api/document.ts';

/** The plan's build rules, edited in place. */
export const useLayout = (plan: number): Document<Layout> =>
  useDocument<Layout>({
    plan,
    name: 'layout',
    read: async () => (await call(readLayout, { params: { plan } })).layout,
    write: editLayout,
  });
