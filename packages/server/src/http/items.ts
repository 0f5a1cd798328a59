import { keep, newItem, newMeeting, voiding } from '@keen-mortar/contract';
import { ITEM_KIND_IDS } from '@keen-mortar/core';
import { Router } from 'express';
import * as z from 'zod';
import { amendItem, makeItem, voidItem } from '../commands/items.js';
import { meet } from '../commands/office.js';
import { clockOf } from '../db.js';
import { fromZod } from '../problems.js';
import { sheetOf } from '../queries/sheets.js';
import { itemsOf } from '../store/items.js';
import type { Parts } from './app.js';
import { idOf, pageOf, projectIdOf } from './requests.js';
import { write } from './writing.js';

const kindQuery = z.object({ kind: z.enum(ITEM_KIND_IDS), begins: z.string().trim().min(1).max(60).optional() });

/** Items of any kind: made, amended, taken back, and each with its sheet. */
export function itemRoutes(parts: Parts): Router {
  const { pool } = parts;
  const routes = Router();
  const sheet = async (id: string) => sheetOf(pool, id, await clockOf(pool));

  routes.get('/items', async (req, res) => {
    const { offset, limit } = pageOf(req);
    const parsed = kindQuery.safeParse(req.query);
    if (!parsed.success) throw fromZod(parsed.error);
    res.json(await itemsOf(pool, projectIdOf(req), parsed.data.kind, offset, limit, parsed.data.begins));
  });
  routes.post('/items', async (req, res) => {
    const { body } = await write(parts, req, 'item', newItem, null, (cx, act, item) => makeItem(cx, act, item));
    res.status(201).json(await sheet(body.id));
  });
  routes.get('/items/:id', async (req, res) => {
    res.json(await sheet(idOf(req)));
  });
  routes.post('/items/:id/entries', async (req, res) => {
    const id = idOf(req);
    await write(parts, req, 'entries', keep, id, (cx, act, body) => amendItem(cx, act, id, body));
    res.status(201).json(await sheet(id));
  });
  routes.post('/items/:id/voiding', async (req, res) => {
    const id = idOf(req);
    await write(parts, req, 'voiding', voiding, id, (cx, act, body) => voidItem(cx, act, id, body));
    res.status(201).json(await sheet(id));
  });
  routes.post('/items/:id/specifications', async (req, res) => {
    const id = idOf(req);
    await write(parts, req, 'meeting', newMeeting, id, (cx, act, body) => meet(cx, act, id, body));
    res.status(201).json(await sheet(id));
  });
  return routes;
}
