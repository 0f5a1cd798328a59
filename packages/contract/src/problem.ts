import * as z from 'zod';

/** One fault of a request: where, which rule, its limit, and the sentence for it. */
export const fault = z.object({
  code: z.string(),
  path: z.string(),
  message: z.string(),
  severity: z.enum(['impossible', 'implausible', 'shape']).optional(),
  params: z.record(z.string(), z.string()).optional(),
  /** What can be done about it. */
  next: z.string().optional(),
  offer: z.object({ text: z.string(), unit: z.string() }).optional(),
  /** Two readings that would be right in each other's place. */
  exchange: z.array(z.string()).optional(),
  /** What is offered, in words. */
  offers: z.string().optional(),
});

/** RFC 9457 problem details, with the faults of the request. */
export const problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  code: z.string(),
  errors: z.array(fault).optional(),
});

export type Fault = z.infer<typeof fault>;
export type Problem = z.infer<typeof problem>;
