import { Router } from 'express';
import { concerns } from '../live.js';
import { changesAfter } from '../store/changes.js';
import { lineOf } from '../store/items.js';
import type { Parts } from './app.js';
import { idOf } from './requests.js';

export function liveRoutes({ pool, live, changes }: Parts): Router {
  const routes = Router();
  for (const topic of ['samples', 'pours', 'items'] as const) {
    routes.get(`/${topic}/:id/live`, async (req, res) => {
      const id = idOf(req);
      // Only the head was asked for: a line that never ends has none to wait for.
      if (req.method === 'HEAD') return void res.type('text/event-stream').end();
      const above = (await lineOf(pool, id)).map((i) => i.id).filter((other) => other !== id);
      const cursor = await changes.cursor();
      live.join(id, above, res, String(cursor));
      // A line that was lost: whatever came meanwhile is told now.
      const last = Number(req.headers['last-event-id']);
      if (!Number.isSafeInteger(last) || last <= 0) return;
      for await (const change of changesAfter(pool, last)) {
        if (!concerns(change, id, new Set(above))) continue;
        live.tell(id, { kind: 'changed', what: change.kind });
        return;
      }
    });
  }
  return routes;
}
