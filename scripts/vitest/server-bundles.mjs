import { bundleServer } from '../setup/server-bundle.mjs';

/** Bundles what server tests start as threads and processes of their own, so that each start takes a second. */
export default () =>
  bundleServer('apps/server/src/testing/dist', {
    'busy-thread': 'testing/busy-thread.ts',
    'runner-process': 'testing/runner-process.ts',
  });
