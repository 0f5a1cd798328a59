import { newCalibration, newEquipment, newKitFinding } from '@keen-mortar/contract';
import { Router } from 'express';
import * as z from 'zod';
import { dayIn } from '@keen-mortar/contract';
import { calibrate, findWrong, makeEquipment } from '../commands/kit.js';
import { clockOf } from '../db.js';
import { kitSheet } from '../queries/kit.js';
import { equipment, equipmentOf } from '../store/kit.js';
import { projectOf } from '../store/projects.js';
import type { Parts } from './app.js';
import { idOf, pageOf, projectIdOf, queryOf } from './requests.js';
import { write } from './writing.js';

/** Which of the tests with it: since its calibration, or those that a finding puts in question. */
export const kitSheetQuery = z.object({ finding: z.uuid().optional() });

export function kitRoutes(parts: Parts): Router {
  const { pool } = parts;
  const routes = Router();
  /** It is kit of a project: what is in force there today. */
  const today = async (projectId: string) => dayIn((await projectOf(pool, projectId)).timezone, (await clockOf(pool)).toISOString());
  const one = async (id: string) => {
    const { projectId } = await equipmentOf(pool, id, '1900-01-01');
    return equipmentOf(pool, id, await today(projectId));
  };
  routes.get('/equipment', async (req, res) => {
    const { offset, limit } = pageOf(req);
    const projectId = projectIdOf(req);
    res.json(await equipment(pool, projectId, await today(projectId), offset, limit));
  });
  routes.get('/equipment/:id', async (req, res) => {
    res.json(await one(idOf(req)));
  });
  routes.get('/equipment/:id/sheet', async (req, res) => {
    const { offset, limit } = pageOf(req);
    const { finding = null } = queryOf(kitSheetQuery, req);
    res.json(await kitSheet(pool, idOf(req), finding, await clockOf(pool), { offset, limit }));
  });
  routes.post('/equipment', async (req, res) => {
    const { body } = await write(parts, req, 'equipment', newEquipment, null, makeEquipment);
    res.status(201).json(await one(body.id));
  });
  routes.post('/equipment/:id/calibrations', async (req, res) => {
    const id = idOf(req);
    await write(parts, req, 'calibration', newCalibration, id, (cx, act, body) => calibrate(cx, act, id, body));
    res.status(201).json(await one(id));
  });
  routes.post('/equipment/:id/findings', async (req, res) => {
    const id = idOf(req);
    await write(parts, req, 'kit-finding', newKitFinding, id, (cx, act, body) => findWrong(cx, act, id, body));
    res.status(201).json(await one(id));
  });
  return routes;
}
