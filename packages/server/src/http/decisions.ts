import { decisionTried, newDecision, newWithdrawal } from '@keen-mortar/contract';
import { Router } from 'express';
import { decide, withdraw } from '../commands/decisions.js';
import { effectOf } from '../commands/effect.js';
import { clockOf } from '../db.js';
import { notFound } from '../problems.js';
import { decisionsOf, findingsShown } from '../queries/findings.js';
import { decisionNamed } from '../store/decisions.js';
import type { Parts } from './app.js';
import { idOf, pageOf, projectIdOf, queryOf } from './requests.js';
import { write } from './writing.js';

/** What is found of an item, what waits for a decision, and what was decided. */
export function decisionRoutes(parts: Parts): Router {
  const { pool } = parts;
  const routes = Router();
  const one = async (id: string) => {
    const found = await decisionNamed(pool, id);
    if (!found) throw notFound('decision', id);
    const { projectId: _projectId, ...decision } = found;
    return decision;
  };
  routes.get('/items/:id/findings', async (req, res) => {
    res.json({ items: await findingsShown(pool, [idOf(req)], await clockOf(pool)) });
  });
  routes.get('/decisions', async (req, res) => {
    res.json(await decisionsOf(pool, projectIdOf(req), await clockOf(pool), pageOf(req)));
  });
  routes.get('/decisions/effect', async (req, res) => {
    res.json(await effectOf(pool, queryOf(decisionTried, req), await clockOf(pool)));
  });
  routes.get('/decisions/:id', async (req, res) => {
    res.json(await one(idOf(req)));
  });
  routes.post('/decisions', async (req, res) => {
    const { body } = await write(parts, req, 'decision', newDecision, null, decide);
    res.status(201).json(await one(body.id));
  });
  routes.post('/decisions/:id/withdrawal', async (req, res) => {
    const id = idOf(req);
    await write(parts, req, 'decision-withdrawal', newWithdrawal, id, (cx, act, body) => withdraw(cx, act, id, body));
    res.status(201).json(await one(id));
  });
  return routes;
}
