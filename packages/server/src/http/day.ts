import { newHours, newPlanned, newSet } from '@keen-mortar/contract';
import { Router } from 'express';
import * as z from 'zod';
import { planDue, setHours } from '../commands/day.js';
import { moldSet } from '../commands/specimens.js';
import { clockOf } from '../db.js';
import { benchOf } from '../queries/bench.js';
import { dayOf } from '../queries/day.js';
import { openingsOf } from '../queries/hours.js';
import { sheetOf } from '../queries/sheets.js';
import { labelsOf } from '../reports/labels.js';
import { childrenOf, itemOf } from '../store/items.js';
import { projectOf } from '../store/projects.js';
import type { Parts } from './app.js';
import { sendPdf } from './papers.js';
import { idOf, projectIdOf, queryOf } from './requests.js';
import { write } from './writing.js';

const AHEAD = 100 * 86_400_000;
export const openingsQuery = z.object({ project: z.uuid(), from: z.iso.datetime().optional() });

/** What is due, when somebody is there, what is planned; and sets of specimens, from which most of it follows. */
export function dayRoutes(parts: Parts): Router {
  const { pool } = parts;
  const routes = Router();
  const now = () => clockOf(pool);
  routes.get('/day', async (req, res) => {
    res.json(await dayOf(pool, projectIdOf(req), await now()));
  });
  routes.get('/bench', async (req, res) => {
    res.json(await benchOf(pool, projectIdOf(req), await now()));
  });
  routes.get('/hours', async (req, res) => {
    const { project, from } = queryOf(openingsQuery, req);
    const { timezone } = await projectOf(pool, project);
    const at = from === undefined ? await now() : new Date(from);
    res.json(await openingsOf(pool, project, timezone, at, new Date(at.getTime() + AHEAD)));
  });
  routes.post('/hours', async (req, res) => {
    const { body } = await write(parts, req, 'hours', newHours, null, setHours);
    res.status(201).json(await dayOf(pool, body.projectId, await now()));
  });
  routes.post('/planned', async (req, res) => {
    const { body } = await write(parts, req, 'planned', newPlanned, null, planDue);
    const { projectId } = await itemOf(pool, body.itemIds[0]!);
    res.status(201).json(await dayOf(pool, projectId, await now()));
  });
  routes.post('/items/:id/specimens', async (req, res) => {
    const id = idOf(req);
    const { body } = await write(parts, req, 'specimens', newSet, id, (cx, act, set) => moldSet(cx, act, id, set));
    res.status(201).json(await sheetOf(pool, body.id, await clockOf(pool)));
  });
  routes.get('/items/:id/labels', async (req, res) => {
    const set = await itemOf(pool, idOf(req), 'specimen-set');
    const specimens = (await childrenOf(pool, [set.id])).filter((s) => !s.voided);
    const { timezone } = await projectOf(pool, set.projectId);
    const address = `${req.protocol}://${req.get('host') ?? 'localhost'}`;
    sendPdf(res, `labels-${set.code}`, await labelsOf(set, specimens, { timezone, address, now: await clockOf(pool) }));
  });
  return routes;
}
