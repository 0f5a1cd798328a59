import { newCertificate, newDevice, newPerson, type DeviceCodes } from '@keen-mortar/contract';
import { ITEM_KIND_IDS, issuedFrom } from '@keen-mortar/core';
import { Router } from 'express';
import { certify, makePerson, meetDevice } from '../commands/people.js';
import { certificates, deviceNumber, people } from '../store/people.js';
import type { Parts } from './app.js';
import { write } from './writing.js';

/** Who is here, what each may do, and the devices that they carry. */
export function peopleRoutes(parts: Parts): Router {
  const { pool } = parts;
  const routes = Router();
  routes.get('/people', async (_req, res) => {
    const items = await people(pool);
    res.json({ items, total: items.length });
  });
  routes.post('/people', async (req, res) => {
    const { body } = await write(parts, req, 'person', newPerson, null, makePerson);
    res.status(201).json({ id: body.id, name: body.name, role: body.role });
  });
  routes.get('/certificates', async (_req, res) => {
    res.json({ items: await certificates(pool) });
  });
  routes.post('/certificates', async (req, res) => {
    await write(parts, req, 'certificate', newCertificate, null, certify);
    res.status(201).json({ items: await certificates(pool) });
  });
  routes.post('/devices', async (req, res) => {
    const { body } = await write(parts, req, 'device', newDevice, null, meetDevice);
    const number = (await deviceNumber(pool, body.id))!;
    const begins: Record<string, string> = {};
    for (const kind of ITEM_KIND_IDS) {
      const first = issuedFrom(kind, number);
      if (first !== null) begins[kind] = first;
    }
    res.status(201).json({ id: body.id, begins } satisfies DeviceCodes);
  });
  return routes;
}
