import { keep, keying, newSample, newSampleEvent, newTest, type KeepAnswer } from '@keen-mortar/contract';
import { Router } from 'express';
import { makeItem } from '../commands/items.js';
import { happen, sampleItem } from '../commands/pouring.js';
import { differing, keepReadings, startTest } from '../commands/tests.js';
import { clockOf } from '../db.js';
import { sampleOf } from '../queries/sheets.js';
import { testOf } from '../queries/tests.js';
import { itemOf } from '../store/items.js';
import type { Parts } from './app.js';
import { idOf, bodyOf } from './requests.js';
import { write } from './writing.js';

export function sampleRoutes(parts: Parts): Router {
  const { pool, live } = parts;
  const routes = Router();
  const answer = async (id: string) => sampleOf(pool, id, await clockOf(pool));

  routes.post('/samples', async (req, res) => {
    const { body } = await write(parts, req, 'sample', newSample, null, async (cx, act, sample) => {
      const { projectId } = await itemOf(cx, sample.loadId, 'load');
      await makeItem(cx, act, sampleItem(projectId, sample));
    });
    res.status(201).json(await answer(body.id));
  });
  routes.get('/samples/:id', async (req, res) => {
    res.json(await answer(idOf(req)));
  });
  routes.post('/samples/:id/events', async (req, res) => {
    const id = idOf(req);
    await write(parts, req, 'sample-event', newSampleEvent, id, async (cx, act, event) => {
      await itemOf(cx, id, 'sample');
      await happen(cx, act, id, event);
    });
    res.status(201).json(await answer(id));
  });
  for (const of of ['samples', 'items'] as const) {
    routes.post(`/${of}/:id/keying`, (req, res) => {
      const [id, body] = [idOf(req), bodyOf(keying, req)];
      live.tell(id, { kind: 'keying', ...body });
      res.status(204).end();
    });
    routes.post(`/${of}/:id/tests`, async (req, res) => {
      const id = idOf(req);
      const { body, done } = await write(parts, req, 'test', newTest, id, (cx, act, test) => startTest(cx, act, id, test));
      res.status(201).json(done ?? (await testOf(pool, body.id)));
    });
  }
  routes.get('/tests/:id', async (req, res) => {
    res.json(await testOf(pool, idOf(req)));
  });
  routes.post('/tests/:id/readings', async (req, res) => {
    const id = idOf(req);
    const { body, done } = await write(parts, req, 'keep', keep, id, (cx, act, kept) =>
      keepReadings(cx, act, id, kept, (device) => parts.instruments?.all().find((i) => i.id === device)?.name),
    );
    if (done) return void res.status(201).json(done);
    const test = await testOf(pool, id);
    res.status(201).json({ test, differs: differing(test, body.shown) } satisfies KeepAnswer);
  });
  return routes;
}
