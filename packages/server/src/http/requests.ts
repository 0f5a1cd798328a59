import type { Request } from 'express';
import * as z from 'zod';
import { fault } from '../faults.js';
import { fromZod, Refused } from '../problems.js';

/** The body, or a problem that names each fault with its path. */
export function bodyOf<T>(schema: z.ZodType<T>, req: Request): T {
  const parsed = schema.safeParse(req.body ?? {});
  if (!parsed.success) throw fromZod(parsed.error);
  return parsed.data;
}

/** What is asked for behind the question mark, or a problem that names each fault. */
export function queryOf<T>(schema: z.ZodType<T>, req: Request): T {
  const parsed = schema.safeParse(req.query);
  if (!parsed.success) throw fromZod(parsed.error);
  return parsed.data;
}

/** The body as it was sent, before anything was filled in. */
export const rawOf = (req: Request): unknown => req.body ?? {};

const uuid = z.uuid().transform((text) => text.toLowerCase());

export function idOf(req: Request, name = 'id'): string {
  const parsed = uuid.safeParse(req.params[name]);
  if (!parsed.success) throw new Refused('not-found', `${String(req.params[name])} is not an id.`);
  return parsed.data;
}

const page = z.object({ offset: z.coerce.number().int().min(0).default(0), limit: z.coerce.number().int().min(1).max(200).default(50) });

/** Every list pages: `?offset=0&limit=50`, at most 200. */
export function pageOf(req: Request): { offset: number; limit: number } {
  const parsed = page.safeParse(req.query);
  if (!parsed.success) throw fromZod(parsed.error);
  return parsed.data;
}

/** A list belongs to a project: `?project=…`. */
export function projectIdOf(req: Request): string {
  const parsed = uuid.safeParse(req.query['project']);
  if (!parsed.success)
    throw new Refused('invalid-input', 'project: an id is needed', [fault('needs-project', 'project', 'an id is needed')]);
  return parsed.data;
}
