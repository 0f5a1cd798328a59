import { dayIn, ledgerFilter, ledgerQuery, newView, removal } from '@keen-mortar/contract';
import { Router, type Request } from 'express';
import * as z from 'zod';
import { clockOf } from '../db.js';
import { FORMATS, send, type Format } from '../exchange.js';
import { fromZod } from '../problems.js';
import { exported, namingOf } from '../queries/export.js';
import { ledgerCounted, ledgerPage } from '../queries/ledger.js';
import { reportsOfTest } from '../queries/reports-of.js';
import { itemOf } from '../store/items.js';
import { insertView, removeView, turnsOf, viewsOf } from '../store/ledger.js';
import { projectOf } from '../store/projects.js';
import { itemIdOfTest } from '../store/tests.js';
import type { Parts } from './app.js';
import { idOf, projectIdOf, queryOf } from './requests.js';
import { write } from './writing.js';

const exportQuery = ledgerFilter.extend({ format: z.enum(Object.keys(FORMATS) as [Format, ...Format[]]) });
const person = z.object({ by: z.uuid() });

/** Every test of a project, and the ways in which people look at them. */
export function ledgerRoutes(parts: Parts): Router {
  const { pool } = parts;
  const routes = Router();
  routes.get('/ledger', async (req, res) => {
    res.json(await ledgerPage(pool, queryOf(ledgerQuery, req), await clockOf(pool)));
  });
  routes.get('/ledger/export', async (req, res) => {
    const { format, ...filter } = queryOf(exportQuery, req);
    const project = await projectOf(pool, filter.project);
    const naming = await namingOf(pool, project);
    const day = dayIn(project.timezone, (await clockOf(pool)).toISOString());
    res.setHeader('content-type', FORMATS[format]);
    res.setHeader('content-disposition', `attachment; filename="tests-${project.code.replace(/[^\w-]+/g, '-')}-${day}.${format}"`);
    await send(format, exported(pool, filter), naming, res);
  });
  routes.get('/ledger/counts', async (req, res) => {
    res.json(await ledgerCounted(pool, queryOf(ledgerFilter, req)));
  });
  routes.get('/tests/:id/turns', async (req, res) => {
    const id = idOf(req);
    const { projectId } = await itemOf(pool, await itemIdOfTest(pool, id));
    const { timezone } = await projectOf(pool, projectId);
    res.json({ items: await turnsOf(pool, id, timezone) });
  });
  routes.get('/tests/:id/reports', async (req, res) => {
    res.json({ items: await reportsOfTest(pool, idOf(req)) });
  });
  const views = async (req: Request) => {
    const parsed = person.safeParse(req.query);
    if (!parsed.success) throw fromZod(parsed.error);
    return viewsOf(pool, projectIdOf(req), parsed.data.by);
  };
  routes.get('/ledger/views', async (req, res) => {
    res.json({ items: await views(req) });
  });
  routes.post('/ledger/views', async (req, res) => {
    const { body } = await write(parts, req, 'view', newView, null, (cx, act, view) => insertView(cx, view, act.now));
    res.status(201).json({ id: body.id, name: body.name, query: body.query, columns: body.columns });
  });
  routes.post('/ledger/views/:id/removal', async (req, res) => {
    const id = idOf(req);
    await write(parts, req, 'view-removal', removal, id, (cx, act) => removeView(cx, id, act.personId));
    res.status(201).json({ id });
  });
  return routes;
}
