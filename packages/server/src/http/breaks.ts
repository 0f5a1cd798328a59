import { Router } from 'express';
import { clockOf } from '../db.js';
import { breakBeside, breaksOf, letterAbout } from '../queries/breaks.js';
import { letterOf } from '../reports/letter.js';
import type { Parts } from './app.js';
import { sendPdf } from './papers.js';
import { idOf, projectIdOf } from './requests.js';

/** What waits at the machine, and what stands beside a specimen while it is broken. */
export function breakRoutes({ pool }: Parts): Router {
  const routes = Router();
  routes.get('/breaks', async (req, res) => {
    res.json(await breaksOf(pool, projectIdOf(req), await clockOf(pool)));
  });
  routes.get('/breaks/:id', async (req, res) => {
    res.json(await breakBeside(pool, idOf(req), await clockOf(pool)));
  });
  routes.get('/breaks/:id/letter', async (req, res) => {
    const address = `${req.protocol}://${req.get('host') ?? 'localhost'}`;
    const letter = await letterAbout(pool, idOf(req), address, await clockOf(pool));
    sendPdf(res, `letter-${letter.test.code}`, await letterOf(letter));
  });
  return routes;
}
