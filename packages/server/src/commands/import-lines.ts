import type { Project } from '@keen-mortar/contract';
import { unitNamed } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import type { Act } from '../actor.js';
import { fault } from '../faults.js';
import { fromZod, Refused } from '../problems.js';

/* What is brought in by a table: its lines, and what is made of them. */

export type Cells = Readonly<Record<string, string>>;
export interface Line {
  readonly at: number;
  readonly cells: Cells;
}

/** A figure as people write it: `7.043`, `3 1/4`, on a stopwatch `1:52`; then its unit. */
const WRITTEN = /^((?:\d+[ -])?\d+\/\d+|\d+:\d\d(?:\.\d+)?|-?[\d.]+)\s*(.*)$/;

/** `7.043 L` as it is written; seconds on a stopwatch, and else a plain number, where it has no unit. */
export function quantity(text: string): { text: string; unit: string } {
  const [, figure = text, unit = ''] = WRITTEN.exec(text) ?? [];
  const usual = figure.includes(':') ? 's' : '1';
  return { text: figure, unit: unit === '' ? usual : (unitNamed(unit) ?? unit) };
}

export const present = (name: string, text: string | undefined): object => (text ? { [name]: text } : {});

/** One thing that is made of some lines: how it is called, how it is made, and which column each fault of it is in. */
export interface Thing {
  readonly called: string;
  readonly make: (cx: PoolConnection, act: Act) => Promise<unknown>;
  /** Heads by the path of a fault, the first that fits. */
  readonly heads: readonly (readonly [RegExp, string])[];
}

export interface Around {
  readonly project: Project;
  readonly by: string;
  readonly sources: ReadonlyMap<string, string>;
  readonly specifications: ReadonlyMap<string, string>;
}

export function parsed<T>(schema: z.ZodType<T>, body: unknown): T {
  const found = schema.safeParse(body);
  if (!found.success) throw fromZod(found.error);
  return found.data;
}

/** A name of the table that has to be one of what is there. */
export function known(names: ReadonlyMap<string, string>, name: string, path: string, what: string): string {
  const found = names.get(name.toLowerCase());
  if (found !== undefined) return found;
  const message = `There is no ${what} “${name}”.`;
  throw new Refused('invalid-input', message, [fault('unknown', path, message)]);
}
