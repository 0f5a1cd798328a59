import { newProject, newSpecification } from '@keen-mortar/contract';
import { statfs } from 'node:fs/promises';
import { Router } from 'express';
import { select } from '../db.js';
import { Refused } from '../problems.js';
import { addProject, people, projectOf, projects } from '../store/projects.js';
import { addSpecification, specifications } from '../store/specifications.js';
import { writeOnce } from '../store/write.js';
import type { Parts } from './app.js';
import { bodyOf, idOf, pageOf, projectIdOf } from './requests.js';

const HEALTH_WAIT = 2000;

const LEAST_FREE_MB = 20;

async function freeMegabytes(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder);
  return (bavail * bsize) / 1e6;
}

export function projectRoutes({ pool, data, now = () => new Date() }: Parts): Router {
  const routes = Router();

  /** Asks the database itself: a server without it is not well. */
  routes.get('/health', async (_req, res) => {
    if (data !== undefined && (await freeMegabytes(data)) < LEAST_FREE_MB)
      throw new Refused('disk-full', `Less than ${LEAST_FREE_MB} MB are free under the database.`);
    await select(pool, 'SELECT 1', [], HEALTH_WAIT);
    res.json({ status: 'ok', now: now().toISOString() });
  });

  routes.get('/people', async (_req, res) => {
    const items = await people(pool);
    res.json({ items, total: items.length });
  });

  routes.get('/projects', async (req, res) => {
    const { offset, limit } = pageOf(req);
    res.json(await projects(pool, offset, limit));
  });
  routes.get('/projects/:id', async (req, res) => {
    res.json(await projectOf(pool, idOf(req)));
  });
  routes.post('/projects', async (req, res) => {
    const body = bodyOf(newProject, req);
    await writeOnce(pool, 'project', body, (cx) => addProject(cx, body));
    res.status(201).json(await projectOf(pool, body.id));
  });

  routes.get('/specifications', async (req, res) => {
    const { offset, limit } = pageOf(req);
    res.json(await specifications(pool, projectIdOf(req), offset, limit));
  });
  routes.post('/specifications', async (req, res) => {
    const body = bodyOf(newSpecification, req);
    await writeOnce(pool, 'specification', body, (cx) => addSpecification(cx, body));
    res.status(201).json({ ...body, by: undefined });
  });

  return routes;
}
