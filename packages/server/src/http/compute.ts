import { computeBody } from '@keen-mortar/contract';
import { methodById, METHODS } from '@keen-mortar/core';
import { Router } from 'express';
import type { Computing } from '../computing/computing.js';
import { Refused } from '../problems.js';
import { bodyOf } from './requests.js';

/** Any definition of the core, without a record: readings in, results with their working out. */
export function computeRoutes(computing: Computing): Router {
  const routes = Router();
  routes.get('/methods', (_req, res) => {
    res.json({
      items: METHODS.map(({ id, title, names, follows, about, variants }) => ({
        id,
        title,
        names,
        follows,
        about,
        variants: Object.keys(variants),
      })),
      total: METHODS.length,
    });
  });
  routes.post('/compute/:method', async (req, res) => {
    const m = methodById(String(req.params['method']));
    if (!m) throw new Refused('not-found', `There is no method ${String(req.params['method'])}.`);
    const { inputs, variant = Object.keys(m.variants)[0]!, system, variants } = bodyOf(computeBody(m), req);
    const answer = await computing.compute({ method: m.id, inputs, variant, system, variants });
    if (answer.refused) throw new Refused('invalid-input', `${m.title}: a reading is impossible.`, answer.refused);
    res.type('json').send(answer.json);
  });
  return routes;
}
