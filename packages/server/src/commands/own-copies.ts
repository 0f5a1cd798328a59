import type { ToldFault } from '../faults.js';
import type { NewOwnCopy } from '@keen-mortar/contract';
import { methodById, ownFaults, nextStep, say, type Parameters, type Variant } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { Refused } from '../problems.js';
import { insertOwnCopy } from '../store/own-copies.js';
import { projectOf } from '../store/projects.js';
import { refuse } from './checks.js';
import { tellProject } from './telling.js';

/** What was meant as now is so much earlier by the time that it comes, ms. */
const ON_ITS_WAY = 5 * 60_000;

/** A lab does a variant by figures of its own from now on, or from a moment to come: what was started before stays as it was. */
export async function makeOwnCopy(cx: PoolConnection, act: Act, body: NewOwnCopy): Promise<void> {
  await projectOf(cx, body.projectId);
  const m = methodById(body.method);
  if (!m?.on) throw refuse('unknown-method', 'method', `There is no method ${body.method} that is kept on record.`);
  const variants = m.variants as Readonly<Record<string, Variant<Parameters>>>;
  const variant = Object.hasOwn(variants, body.variant) ? variants[body.variant] : undefined;
  if (!variant) throw refuse('unknown-variant', 'variant', `${m.title} has no variant ${body.variant}.`);
  const faults = Object.entries(ownFaults(variant.params, body.figures)).map(([path, { code, params }]): ToldFault => ({
    code,
    path: `figures.${path}`,
    message: say(code, params),
    next: nextStep(code, params) ?? 'Look at the figure as it is printed.',
  }));
  if (faults.length > 0)
    throw new Refused('invalid-input', `${m.title}: ${faults.length === 1 ? 'a figure' : 'figures'} cannot be so.`, faults);
  const from = body.from === undefined ? act.now : new Date(body.from);
  if (act.now.getTime() - from.getTime() > ON_ITS_WAY)
    throw refuse('not-yet', 'from', 'From now on, or from a moment to come: what was tested already stays as it was.');
  await insertOwnCopy(cx, act, body, from);
  await tellProject(cx, act, body.projectId, 'own-copy', body.id);
}
