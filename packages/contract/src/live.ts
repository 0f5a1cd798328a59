// Read before the first screen: the small form of the same schemas.
import * as z from 'zod/mini';

/** What an open page hears: more than this of an older or newer server it does not read. */
export const liveMessage = z.object({
  kind: z.enum(['changed', 'keying', 'hello']),
  /** Where the line can be taken up again. */
  seq: z.optional(z.string()),
  /** What of it has changed. */
  what: z.optional(z.string()),
  by: z.optional(z.string()),
  testId: z.optional(z.string()),
  method: z.optional(z.string()),
});
export type LiveMessage = z.infer<typeof liveMessage>;
