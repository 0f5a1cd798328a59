import { moment, newAcceptance, newLook, newMix, newRevision } from '@keen-mortar/contract';
import { Router, type Request } from 'express';
import * as z from 'zod';
import { accept, lookAt, makeMix, makeRevision } from '../commands/office.js';
import { clockOf } from '../db.js';
import { mixesFound, mixSheet, sourcesNow } from '../queries/mixes.js';
import { seriesOf, wholeOf } from '../queries/series.js';
import { sourceSheet, trendsOf } from '../queries/sources.js';
import { mixHead, mixOf } from '../store/mixes.js';
import { fromZod } from '../problems.js';
import { FORMATS, seriesCsv } from '../exchange.js';
import type { Parts } from './app.js';
import { idOf, pageOf, projectIdOf, queryOf } from './requests.js';
import { write } from './writing.js';

/** No mix was tested more often. */
const LONGEST = 200_000;

/** At which age, in days. */
export const seriesQuery = z.object({ age: z.coerce.number().int().min(1).max(3650).optional() });
const atQuery = z.object({ at: moment.optional() });

export function mixRoutes(parts: Parts): Router {
  const { pool } = parts;
  const routes = Router();
  /** `?at=…`: as it was known then; now, where it is not given. */
  const momentOf = async (req: Request): Promise<Date> => {
    const parsed = atQuery.safeParse(req.query);
    if (!parsed.success) throw fromZod(parsed.error);
    return parsed.data.at === undefined ? clockOf(pool) : new Date(parsed.data.at);
  };
  routes.get('/mixes', async (req, res) => {
    const { offset, limit } = pageOf(req);
    res.json(await mixesFound(pool, projectIdOf(req), await clockOf(pool), offset, limit));
  });
  routes.get('/mixes/:id', async (req, res) => {
    res.json(await mixOf(pool, idOf(req)));
  });
  routes.get('/mixes/:id/sheet', async (req, res) => {
    res.json(await mixSheet(pool, idOf(req), await clockOf(pool)));
  });
  routes.get('/mixes/:id/trends', async (req, res) => {
    const { projectId, id } = await mixHead(pool, idOf(req));
    res.json({ projectId, trends: await trendsOf(pool, id, await momentOf(req)) });
  });
  routes.get('/mixes/:id/series', async (req, res) => {
    res.json(await seriesOf(pool, idOf(req), await clockOf(pool), queryOf(seriesQuery, req).age));
  });
  routes.get('/mixes/:id/series.csv', async (req, res) => {
    const series = await seriesOf(pool, idOf(req), await clockOf(pool), queryOf(seriesQuery, req).age);
    res.type(FORMATS.csv).attachment(`series-${series.mix.code}-${series.accepted.ageDays}-days.csv`).send(seriesCsv(series));
  });
  routes.get('/mixes/:id/series/whole', async (req, res) => {
    res.json(await wholeOf(pool, idOf(req), await clockOf(pool), queryOf(seriesQuery, req).age, LONGEST));
  });
  routes.get('/sources', async (req, res) => {
    const { offset, limit } = pageOf(req);
    res.json(await sourcesNow(pool, projectIdOf(req), await momentOf(req), offset, limit));
  });
  routes.get('/sources/:id', async (req, res) => {
    res.json(await sourceSheet(pool, idOf(req), await momentOf(req)));
  });
  routes.post('/sources/:id/acceptances', async (req, res) => {
    const id = idOf(req);
    await write(parts, req, 'acceptance', newAcceptance, id, (cx, act, body) => accept(cx, act, id, body));
    res.status(201).json(await sourceSheet(pool, id, await clockOf(pool)));
  });
  routes.post('/mixes/:id/looks', async (req, res) => {
    const id = idOf(req);
    await write(parts, req, 'look', newLook, id, (cx, act, body) => lookAt(cx, act, id, body));
    res.status(201).json(await mixSheet(pool, id, await clockOf(pool)));
  });
  routes.post('/mixes', async (req, res) => {
    const { body } = await write(parts, req, 'mix', newMix, null, makeMix);
    res.status(201).json(await mixOf(pool, body.id));
  });
  routes.post('/mixes/:id/revisions', async (req, res) => {
    const id = idOf(req);
    await write(parts, req, 'revision', newRevision, id, (cx, act, body) => makeRevision(cx, act, id, body));
    res.status(201).json(await mixOf(pool, id));
  });
  return routes;
}
