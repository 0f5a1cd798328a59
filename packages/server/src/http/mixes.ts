import { newMix, newRevision } from '@keen-mortar/contract';
import { Router } from 'express';
import { makeMix, makeRevision } from '../commands/office.js';
import { clockOf } from '../db.js';
import { mixSheet } from '../queries/mixes.js';
import { mixes, mixOf } from '../store/mixes.js';
import type { Parts } from './app.js';
import { idOf, pageOf, projectIdOf } from './requests.js';
import { write } from './writing.js';

export function mixRoutes(parts: Parts): Router {
  const { pool } = parts;
  const routes = Router();
  routes.get('/mixes', async (req, res) => {
    const { offset, limit } = pageOf(req);
    res.json(await mixes(pool, projectIdOf(req), offset, limit));
  });
  routes.get('/mixes/:id', async (req, res) => {
    res.json(await mixOf(pool, idOf(req)));
  });
  routes.get('/mixes/:id/sheet', async (req, res) => {
    res.json(await mixSheet(pool, idOf(req), await clockOf(pool)));
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
