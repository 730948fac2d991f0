import * as api from '@sprig/contracts';
import type { z } from 'zod';
import { succeeded, type TestServer, upload } from './start-test-server.ts';

export type ReportFile = Partial<z.input<typeof api.startReports.body>['files'][number]> & {
  text: string | Uint8Array;
};

/** Reads reports; answers what waits of them, in their order. */
export async function readReports(
  server: TestServer,
  plan: number,
  files: readonly ReportFile[],
): Promise<string[]> {
  const sent = [];
  for (const { text, ...rest } of files)
    sent.push({ upload: await upload(server, plan, text), name: 'report.csv', ...rest });
  const { job } = await server.call(api.startReports, { params: { plan }, body: { files: sent } });
  return api.reportsRead.parse((await succeeded(server, plan, job)).result).readings;
}

/** Reads reports and takes them in. */
export async function bringReports(
  server: TestServer,
  plan: number,
  ...files: readonly ReportFile[]
): Promise<void> {
  const readings = await readReports(server, plan, files);
  await server.call(api.takeReports, { params: { plan }, body: { readings } });
}
