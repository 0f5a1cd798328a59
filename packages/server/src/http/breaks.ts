import { Router } from 'express';
import { clockOf } from '../db.js';
import { breakBeside, breaksOf } from '../queries/breaks.js';
import type { Parts } from './app.js';
import { idOf, projectIdOf } from './requests.js';

/** What waits at the machine, and what stands beside a specimen while it is broken. */
export function breakRoutes({ pool }: Parts): Router {
  const routes = Router();
  routes.get('/breaks', async (req, res) => {
    res.json(await breaksOf(pool, projectIdOf(req), await clockOf(pool)));
  });
  routes.get('/breaks/:id', async (req, res) => {
    res.json(await breakBeside(pool, idOf(req)));
  });
  return routes;
}
