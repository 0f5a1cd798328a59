import { newLoad, newPour, newWater } from '@keen-mortar/contract';
import { Router } from 'express';
import { amendItem, makeItem } from '../commands/items.js';
import { loadItem, pourItem, waterEntries } from '../commands/pouring.js';
import { clockOf } from '../db.js';
import { drawnPaper, loadOf, loads, pourDetail, pours } from '../queries/pours.js';
import { itemOf } from '../store/items.js';
import type { Parts } from './app.js';
import { sendPdf } from './papers.js';
import { idOf, pageOf, projectIdOf } from './requests.js';
import { write } from './writing.js';

export function pourRoutes(parts: Parts): Router {
  const { pool } = parts;
  const routes = Router();
  routes.get('/pours', async (req, res) => {
    const { offset, limit } = pageOf(req);
    res.json(await pours(pool, projectIdOf(req), offset, limit));
  });
  routes.get('/pours/:id', async (req, res) => {
    res.json(await pourDetail(pool, idOf(req), await clockOf(pool)));
  });
  routes.get('/pours/:id/draw', async (req, res) => {
    const { name, pdf } = await drawnPaper(pool, idOf(req), await clockOf(pool));
    sendPdf(res, name, pdf);
  });
  routes.post('/pours', async (req, res) => {
    const { body } = await write(parts, req, 'pour', newPour, null, (cx, act, pour) => makeItem(cx, act, pourItem(pour)));
    res.status(201).json(await pourDetail(pool, body.id, await clockOf(pool)));
  });
  routes.get('/pours/:id/loads', async (req, res) => {
    const { offset, limit } = pageOf(req);
    res.json(await loads(pool, idOf(req), offset, limit));
  });
  routes.post('/pours/:id/loads', async (req, res) => {
    const pourId = idOf(req);
    const { body } = await write(parts, req, 'load', newLoad, pourId, async (cx, act, load) => {
      const { projectId } = await itemOf(cx, pourId, 'pour');
      await makeItem(cx, act, loadItem(projectId, pourId, load));
    });
    res.status(201).json(await loadOf(pool, body.id));
  });
  routes.get('/loads/:id', async (req, res) => {
    res.json(await loadOf(pool, idOf(req)));
  });
  routes.post('/loads/:id/water', async (req, res) => {
    const id = idOf(req);
    await write(parts, req, 'water', newWater, id, async (cx, act, water) => {
      await itemOf(cx, id, 'load');
      await amendItem(cx, act, id, waterEntries(water, act.now), 'mass');
    });
    res.status(201).json(await loadOf(pool, id));
  });
  return routes;
}
