import { Router } from 'express';
import type { Parts } from './app.js';
import { idOf } from './requests.js';

export function liveRoutes({ live }: Parts): Router {
  const routes = Router();
  for (const topic of ['sample', 'pour'] as const) {
    routes.get(`/${topic}s/:id/live`, (req, res) => live.join(`${topic}:${idOf(req)}`, res));
  }
  return routes;
}
