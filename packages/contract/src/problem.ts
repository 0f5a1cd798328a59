// Read before the first screen: the small form of the same schemas.
import * as z from 'zod/mini';

/** One fault of a request: where, which rule, its limit, and the sentence for it. */
export const fault = z.object({
  code: z.string(),
  path: z.string(),
  message: z.string(),
  severity: z.optional(z.enum(['impossible', 'implausible', 'shape'])),
  params: z.optional(z.record(z.string(), z.string())),
  /** What can be done about it. */
  next: z.optional(z.string()),
  offer: z.optional(
    z.object({
      text: z.string(),
      unit: z.string(),
      /** The other readings that the same slip went through. */
      also: z.optional(z.array(z.object({ path: z.string(), text: z.string(), unit: z.string() }))),
    }),
  ),
  /** Two readings that would be right in each other's place. */
  exchange: z.optional(z.array(z.string())),
  /** What is offered, in words. */
  offers: z.optional(z.string()),
});

/** RFC 9457 problem details, with the faults of the request. */
export const problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  code: z.string(),
  errors: z.optional(z.array(fault)),
});

export type Fault = z.infer<typeof fault>;
export type Problem = z.infer<typeof problem>;
