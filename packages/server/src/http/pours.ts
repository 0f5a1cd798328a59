import { newLoad, newPour, newWater } from '@keen-mortar/contract';
import { Router } from 'express';
import { select } from '../db.js';
import { addLoad, addPour, addWater, loadOf, loads, pourDetail, pours } from '../store/pours.js';
import { writeOnce } from '../store/write.js';
import type { Parts } from './app.js';
import { bodyOf, idOf, pageOf, projectIdOf } from './requests.js';

export function pourRoutes({ pool, live }: Parts): Router {
  const routes = Router();
  routes.get('/pours', async (req, res) => {
    const { offset, limit } = pageOf(req);
    res.json(await pours(pool, projectIdOf(req), offset, limit));
  });
  routes.get('/pours/:id', async (req, res) => {
    res.json(await pourDetail(pool, idOf(req)));
  });
  routes.post('/pours', async (req, res) => {
    const body = bodyOf(newPour, req);
    await writeOnce(pool, 'pour', body, (cx) => addPour(cx, body));
    res.status(201).json(await pourDetail(pool, body.id));
  });
  routes.get('/pours/:id/loads', async (req, res) => {
    const { offset, limit } = pageOf(req);
    res.json(await loads(pool, idOf(req), offset, limit));
  });
  routes.post('/pours/:id/loads', async (req, res) => {
    const [id, body] = [idOf(req), bodyOf(newLoad, req)];
    await writeOnce(pool, 'load', body, (cx) => addLoad(cx, id, body));
    live.tell(`pour:${id}`, { kind: 'changed' });
    res.status(201).json(await loadOf(pool, body.id));
  });
  routes.get('/loads/:id', async (req, res) => {
    res.json(await loadOf(pool, idOf(req)));
  });
  routes.post('/loads/:id/water', async (req, res) => {
    const [id, body] = [idOf(req), bodyOf(newWater, req)];
    await writeOnce(pool, 'water', body, (cx) => addWater(cx, id, body));
    const load = await loadOf(pool, id);
    live.tell(`pour:${load.pourId}`, { kind: 'changed' });
    for (const { id: sample } of await select<{ id: string }>(pool, 'SELECT id FROM sample WHERE load_id = ?', [id]))
      live.tell(`sample:${sample}`, { kind: 'changed' });
    res.status(201).json(load);
  });
  return routes;
}
