import { newProject, newSpecification } from '@keen-mortar/contract';
import { statfs } from 'node:fs/promises';
import { Router } from 'express';
import { clockOf } from '../db.js';
import { Refused } from '../problems.js';
import { makeProject, makeSpecification } from '../commands/office.js';
import { projectOf, projects } from '../store/projects.js';
import { specificationOf, specifications } from '../store/specifications.js';
import type { Parts } from './app.js';
import { idOf, pageOf, projectIdOf } from './requests.js';
import { write } from './writing.js';

const HEALTH_WAIT = 2000;

const LEAST_FREE_MB = 20;

async function freeMegabytes(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder);
  return (bavail * bsize) / 1e6;
}

export function projectRoutes(parts: Parts): Router {
  const { pool, data } = parts;
  const routes = Router();

  /** Asks the database itself: a server without it is not well. */
  routes.get('/health', async (_req, res) => {
    if (data !== undefined && (await freeMegabytes(data)) < LEAST_FREE_MB)
      throw new Refused('disk-full', `Less than ${LEAST_FREE_MB} MB are free under the database.`);
    const now = await clockOf(pool, HEALTH_WAIT);
    res.json({ status: 'ok', now: now.toISOString() });
  });

  routes.get('/projects', async (req, res) => {
    const { offset, limit } = pageOf(req);
    res.json(await projects(pool, offset, limit));
  });
  routes.get('/projects/:id', async (req, res) => {
    res.json(await projectOf(pool, idOf(req)));
  });
  routes.post('/projects', async (req, res) => {
    const { body } = await write(parts, req, 'project', newProject, null, makeProject);
    res.status(201).json(await projectOf(pool, body.id));
  });

  routes.get('/specifications', async (req, res) => {
    const { offset, limit } = pageOf(req);
    res.json(await specifications(pool, projectIdOf(req), offset, limit));
  });
  routes.get('/specifications/:id', async (req, res) => {
    res.json(await specificationOf(pool, idOf(req)));
  });
  routes.post('/specifications', async (req, res) => {
    const { body } = await write(parts, req, 'specification', newSpecification, null, makeSpecification);
    res.status(201).json(await specificationOf(pool, body.id));
  });

  return routes;
}
