import { z } from 'zod';

const label = z.string();

/** What of that which plans share was changed, and the label of the change by which another plan follows. */
export const sharedNote = z.discriminatedUnion('what', [
  z.object({ what: z.literal('negatives'), label }),
  z.object({ what: z.literal('outlet'), label }),
  z.object({ what: z.literal('settings'), sets: z.array(z.number().int()), label }),
  z.object({ what: z.literal('words'), lists: z.array(z.number().int()), label }),
]);
export type SharedNote = z.infer<typeof sharedNote>;
