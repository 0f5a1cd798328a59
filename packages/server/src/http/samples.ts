import { keep, keying, newSample, newSampleEvent, newTest } from '@keen-mortar/contract';
import { Router } from 'express';
import { clockOf } from '../db.js';
import { addSample, addSampleEvent, sampleOf } from '../store/samples.js';
import { addTest, answerOf, keepReadings, sampleIdOfTest, testOf } from '../store/tests.js';
import { writeOnce } from '../store/write.js';
import type { Parts } from './app.js';
import { bodyOf, idOf } from './requests.js';

export function sampleRoutes({ pool, live, now }: Parts): Router {
  const routes = Router();
  const changed = async (sampleId: string) => {
    live.tell(`sample:${sampleId}`, { kind: 'changed' });
    live.tell(`pour:${(await sampleOf(pool, sampleId)).pour.id}`, { kind: 'changed' });
  };

  routes.post('/samples', async (req, res) => {
    const body = bodyOf(newSample, req);
    await writeOnce(pool, 'sample', body, (cx) => addSample(cx, body));
    await changed(body.id);
    res.status(201).json(await sampleOf(pool, body.id));
  });
  routes.get('/samples/:id', async (req, res) => {
    res.json(await sampleOf(pool, idOf(req)));
  });
  routes.post('/samples/:id/events', async (req, res) => {
    const [id, body] = [idOf(req), bodyOf(newSampleEvent, req)];
    await writeOnce(pool, 'sample-event', body, (cx) => addSampleEvent(cx, id, body));
    await changed(id);
    res.status(201).json(await sampleOf(pool, id));
  });
  routes.post('/samples/:id/keying', (req, res) => {
    const [id, body] = [idOf(req), bodyOf(keying, req)];
    live.tell(`sample:${id}`, { kind: 'keying', ...body });
    res.status(204).end();
  });
  routes.post('/samples/:id/tests', async (req, res) => {
    const [id, body] = [idOf(req), bodyOf(newTest, req)];
    await writeOnce(pool, 'test', body, (cx) => addTest(cx, id, body));
    await changed(id);
    res.status(201).json(await testOf(pool, body.id));
  });
  routes.get('/tests/:id', async (req, res) => {
    res.json(await testOf(pool, idOf(req)));
  });
  routes.post('/tests/:id/readings', async (req, res) => {
    const [id, body] = [idOf(req), bodyOf(keep, req)];
    await writeOnce(pool, 'keep', body, async (cx) => keepReadings(cx, id, body, now ? now() : await clockOf(cx)));
    await changed(await sampleIdOfTest(pool, id));
    res.status(201).json(answerOf(await testOf(pool, id), body.shown));
  });
  return routes;
}
