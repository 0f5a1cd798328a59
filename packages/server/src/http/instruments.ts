import { instrumentCommand } from '@keen-mortar/contract';
import { Router } from 'express';
import { notFound, Refused } from '../problems.js';
import type { Parts } from './app.js';
import { bodyOf } from './requests.js';

/** Pages that listen at once; a lab has no more. */
const MOST_LISTENING = 200;
/** Bytes that may wait for one. */
const MOST_WAITING = 64_000;

/** Instruments that the server is wired to: what each shows, as it moves, and what it is told. */
export function instrumentRoutes({ instruments }: Parts): Router {
  const routes = Router();
  let listening = 0;
  routes.get('/instruments', (_req, res) => {
    res.json({ items: instruments?.all() ?? [] });
  });
  routes.get('/instruments/:id/live', (req, res) => {
    if (!instruments?.has(req.params.id)) throw notFound('instrument', req.params.id);
    if (listening >= MOST_LISTENING) throw new Refused('busy', 'Too many pages listen to instruments at once.');
    res.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' });
    if (req.method === 'HEAD') return void res.end();
    listening++;
    // A page that does not read is let go: it comes back when it hears again.
    const leave = instruments.listen(req.params.id, (reading) => {
      if (res.writableLength > MOST_WAITING) res.destroy();
      else res.write(`data: ${JSON.stringify(reading)}\n\n`);
    });
    res.on('close', () => {
      listening--;
      leave?.();
    });
  });
  routes.post('/instruments/:id/commands', async (req, res) => {
    const command = bodyOf(instrumentCommand, req);
    const answer = await instruments?.command(req.params.id, command);
    if (!answer) throw notFound('instrument', req.params.id);
    if (!answer.ok) throw new Refused('not-done', `It was not done: ${answer.says}.`);
    res.status(201).json(answer);
  });
  return routes;
}
