import { newMix, newRevision } from '@keen-mortar/contract';
import { Router } from 'express';
import { addMix, addRevision, mixes, mixOf } from '../store/mixes.js';
import { writeOnce } from '../store/write.js';
import type { Parts } from './app.js';
import { bodyOf, idOf, pageOf, projectIdOf } from './requests.js';

export function mixRoutes({ pool }: Parts): Router {
  const routes = Router();
  routes.get('/mixes', async (req, res) => {
    const { offset, limit } = pageOf(req);
    res.json(await mixes(pool, projectIdOf(req), offset, limit));
  });
  routes.get('/mixes/:id', async (req, res) => {
    res.json(await mixOf(pool, idOf(req)));
  });
  routes.post('/mixes', async (req, res) => {
    const body = bodyOf(newMix, req);
    await writeOnce(pool, 'mix', body, (cx) => addMix(cx, body));
    res.status(201).json(await mixOf(pool, body.id));
  });
  routes.post('/mixes/:id/revisions', async (req, res) => {
    const [id, body] = [idOf(req), bodyOf(newRevision, req)];
    await writeOnce(pool, 'revision', body, (cx) => addRevision(cx, id, body));
    res.status(201).json(await mixOf(pool, id));
  });
  return routes;
}
