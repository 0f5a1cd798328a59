import { Router } from 'express';
import type { Parts } from './app.js';
import { idOf } from './requests.js';

export function liveRoutes({ live }: Parts): Router {
  const routes = Router();
  for (const topic of ['sample', 'pour'] as const) {
    routes.get(`/${topic}s/:id/live`, (req, res) => {
      const id = idOf(req);
      // Only the head was asked for: a line that never ends has none to wait for.
      if (req.method === 'HEAD') res.type('text/event-stream').end();
      else live.join(`${topic}:${id}`, res);
    });
  }
  return routes;
}
