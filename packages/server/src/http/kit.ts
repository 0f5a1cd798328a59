import { newCalibration, newEquipment } from '@keen-mortar/contract';
import { Router } from 'express';
import { addCalibration, addEquipment, equipment, equipmentOf } from '../store/kit.js';
import { writeOnce } from '../store/write.js';
import type { Parts } from './app.js';
import { bodyOf, idOf, pageOf, projectIdOf } from './requests.js';

export function kitRoutes({ pool }: Parts): Router {
  const routes = Router();
  routes.get('/equipment', async (req, res) => {
    const { offset, limit } = pageOf(req);
    res.json(await equipment(pool, projectIdOf(req), offset, limit));
  });
  routes.get('/equipment/:id', async (req, res) => {
    res.json(await equipmentOf(pool, idOf(req)));
  });
  routes.post('/equipment', async (req, res) => {
    const body = bodyOf(newEquipment, req);
    await writeOnce(pool, 'equipment', body, (cx) => addEquipment(cx, body));
    res.status(201).json(await equipmentOf(pool, body.id));
  });
  routes.post('/equipment/:id/calibrations', async (req, res) => {
    const [id, body] = [idOf(req), bodyOf(newCalibration, req)];
    await writeOnce(pool, 'calibration', body, (cx) => addCalibration(cx, id, body));
    res.status(201).json(await equipmentOf(pool, id));
  });
  return routes;
}
