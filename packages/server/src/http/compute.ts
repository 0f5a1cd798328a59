import { computeBody } from '@keen-mortar/contract';
import { CORE_VERSION, evaluate, methodById, METHODS, otherSchools } from '@keen-mortar/core';
import { Router } from 'express';
import { faultOf, Refused } from '../problems.js';
import { bodyOf } from './requests.js';

/** Any definition of the core, without a record: readings in, results with their working out. */
export function computeRoutes(): Router {
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
  routes.post('/compute/:method', (req, res) => {
    const m = methodById(String(req.params['method']));
    if (!m) throw new Refused('not-found', `There is no method ${String(req.params['method'])}.`);
    const { inputs, variant = Object.keys(m.variants)[0]!, system, schools } = bodyOf(computeBody(m), req);
    const how = { variant, system, working: true };
    const evaluation = evaluate(m, inputs, how);
    const impossible = evaluation.issues.filter((issue) => issue.severity === 'impossible');
    if (impossible.length > 0) throw new Refused('invalid-input', `${m.title}: a reading cannot be.`, impossible.map(faultOf));
    res.json({ coreVersion: CORE_VERSION, evaluation, ...(schools ? { schools: otherSchools(m, inputs, how) } : {}) });
  });
  return routes;
}
