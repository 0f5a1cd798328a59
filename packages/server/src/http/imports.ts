import { newImport } from '@keen-mortar/contract';
import { Router } from 'express';
import { bringIn } from '../commands/imports.js';
import { tried } from '../store/writes.js';
import type { Parts } from './app.js';
import { bodyOf, rawOf } from './requests.js';
import { write } from './writing.js';

/** Tables that a lab brings in: looked at first, without a trace, and then made as a whole or not at all. */
export function importRoutes(parts: Parts): Router {
  const routes = Router();
  routes.post('/imports', async (req, res) => {
    const body = bodyOf(newImport, req);
    if (body.dry) {
      const what = { kind: 'import', targetId: null, raw: rawOf(req), id: body.id, personId: body.by };
      res.json(await tried(parts.pool, what, (cx, act) => bringIn(cx, act, body)));
      return;
    }
    const { done } = await write(parts, req, 'import', newImport, null, bringIn);
    res.status(201).json(done ?? { lines: 0, made: [], dry: false });
  });
  return routes;
}
