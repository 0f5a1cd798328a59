import type { ToldFault } from './faults.js';
import { nextStep, offerWords, say, type AnyMethod, type Issue } from '@keen-mortar/core';
import type * as z from 'zod';

/** What the server refuses, by code: status and title. Details come with each. */
const KINDS = {
  'bad-request': [400, 'The request cannot be read'],
  'invalid-input': [422, 'Something in the request is impossible'],
  'needs-reason': [422, 'An unlikely reading or a correction needs a reason'],
  'other-project': [422, 'That belongs to another project'],
  'not-found': [404, 'There is no such thing'],
  'id-reused': [409, 'This id was used for another write'],
  'already-exists': [409, 'That exists already'],
  'already-broken': [409, 'It is broken already'],
  'already-read': [409, 'Somebody kept another reading meanwhile'],
  'database-away': [503, 'The database does not answer'],
  'too-large': [413, 'The request is too large'],
  'too-long': [422, 'This takes too long to compute'],
  busy: [503, 'The server is busy computing'],
  'wrong-host': [421, 'This server does not answer to that name'],
  'cross-site': [403, 'A write must come from the application itself'],
  'not-allowed': [405, 'This cannot be done here'],
  'not-done': [409, 'The instrument did not do it'],
  'not-a-picture': [415, 'This is no picture and no paper'],
  'disk-full': [507, 'The disk is full'],
  internal: [500, 'Something went wrong here'],
} as const;

export type ProblemCode = keyof typeof KINDS;

/** Thrown anywhere below a route; becomes an RFC 9457 answer at the edge. */
export class Refused extends Error {
  readonly status: number;
  readonly title: string;

  constructor(
    readonly code: ProblemCode,
    detail: string,
    readonly errors: readonly ToldFault[] = [],
  ) {
    super(detail);
    [this.status, this.title] = KINDS[code];
  }

  /** The same of a part of a larger request. */
  under(path: string): Refused {
    return new Refused(
      this.code,
      this.message,
      this.errors.map((e) => ({ ...e, path: `${path}.${e.path}` })),
    );
  }
}

export const notFound = (what: string, id: string): Refused => new Refused('not-found', `No ${what} ${id}.`);

export function fromZod(error: z.ZodError): Refused {
  const errors = error.issues.map((issue): ToldFault => ({
    code: issue.code,
    path: issue.path.join('.'),
    message: issue.message,
    severity: 'shape',
    next: 'Send it as /api/v1/openapi.json describes it.',
  }));
  const first = errors[0];
  return new Refused('invalid-input', first ? `${first.path || 'body'}: ${first.message}` : 'invalid', errors);
}

export function faultOf(m: AnyMethod, issue: Issue): ToldFault {
  const [next, offers] = [nextStep(issue.code, issue.params), offerWords(m, issue)];
  return {
    code: issue.code,
    path: issue.path,
    message: say(issue.code, issue.params),
    severity: issue.severity,
    params: { ...issue.params },
    next: next ?? 'Look at what was keyed.',
    ...(issue.offer ? { offer: { ...issue.offer, also: issue.offer.also?.map((one) => ({ ...one })) } } : {}),
    ...(issue.exchange ? { exchange: [...issue.exchange] } : {}),
    ...(offers === null ? {} : { offers }),
  };
}
