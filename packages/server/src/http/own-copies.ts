import { newOwnCopy } from '@keen-mortar/contract';
import { Router } from 'express';
import * as z from 'zod';
import { makeOwnCopy } from '../commands/own-copies.js';
import { clockOf } from '../db.js';
import { ownCopiesFrom, ownCopiesOf, ownCopyOf } from '../store/own-copies.js';
import type { Parts } from './app.js';
import { idOf, queryOf } from './requests.js';
import { write } from './writing.js';

/** Without a method those that are in force and to come; with one and its variant all that it ever had. */
export const ownCopyQuery = z.object({
  project: z.uuid(),
  method: z.string().max(40).optional(),
  variant: z.string().max(40).optional(),
});

export function ownCopyRoutes(parts: Parts): Router {
  const { pool } = parts;
  const routes = Router();
  routes.get('/own-copies', async (req, res) => {
    const { project, method, variant } = queryOf(ownCopyQuery, req);
    res.json(
      method === undefined || variant === undefined
        ? await ownCopiesFrom(pool, project, await clockOf(pool))
        : await ownCopiesOf(pool, project, method, variant),
    );
  });
  routes.get('/own-copies/:id', async (req, res) => {
    res.json(await ownCopyOf(pool, idOf(req)));
  });
  routes.post('/own-copies', async (req, res) => {
    const { body } = await write(parts, req, 'own-copy', newOwnCopy, null, makeOwnCopy);
    res.status(201).json(await ownCopyOf(pool, body.id));
  });
  return routes;
}
