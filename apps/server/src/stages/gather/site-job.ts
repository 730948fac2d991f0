import { type SiteReading, siteRequest } from '@sprig/contracts';
import { readingRules } from '../../figures/reading-rules.ts';
import { type Asker, readSite, UnreadableSite } from '../../pages/index.ts';
import { SprigFailure } from '../../platform/failure.ts';
import type { JobContext } from '../../platform/jobs/context.ts';

/** Reads what a site speaks of; stopped between two pages. */
export const siteJob =
  (asker: Asker) =>
  async (context: JobContext): Promise<SiteReading> => {
    const { address } = siteRequest.parse(context.input);
    const { rules } = await readingRules(context.caller);
    await context.phase('reading');
    try {
      return await readSite(address, asker, rules.pack, (done, total) =>
        context.progress('reading', done, total),
      );
    } catch (error) {
      if (error instanceof UnreadableSite)
        throw new SprigFailure('invalid', error.message, { at: 'address' });
      throw error;
    }
  };
