import * as z from 'zod';

/** What an open page hears: more than this of an older or newer server it does not read. */
export const liveMessage = z.object({
  kind: z.enum(['changed', 'keying', 'hello']),
  /** Where the line can be taken up again. */
  seq: z.string().optional(),
  /** What of it has changed. */
  what: z.string().optional(),
  by: z.string().optional(),
  testId: z.string().optional(),
  method: z.string().optional(),
});
export type LiveMessage = z.infer<typeof liveMessage>;
