import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { dayIn } from '@keen-mortar/contract';
import { Router, type Request } from 'express';
import * as z from 'zod';
import { clockOf } from '../db.js';
import { Refused } from '../problems.js';
import { projectOf } from '../store/projects.js';
import { RECORD_TYPE } from '../transfer/format.js';
import { giveRecord } from '../transfer/give.js';
import { linesOf } from '../transfer/lines.js';
import { takeRecord } from '../transfer/take.js';
import type { Parts } from './app.js';
import { projectIdOf, queryOf } from './requests.js';

/** Whoever still sends hears nothing: an answer waits until all of it has come, or they have gone. */
async function sentWhole(req: Request): Promise<void> {
  if (req.complete || req.destroyed) return;
  req.resume();
  await new Promise((resolve) => req.once('end', resolve).once('close', resolve));
}

export const recordQuery = z.object({ dry: z.enum(['true', 'false']).default('false') });

/** A project’s whole record, given as a file and taken up by another installation. */
export function recordRoutes({ pool, changes }: Parts): Router {
  const routes = Router();
  routes.get('/records', async (req, res) => {
    const project = await projectOf(pool, projectIdOf(req));
    const now = await clockOf(pool);
    res.setHeader('content-type', RECORD_TYPE);
    const name = `record-${project.code.replace(/[^\w-]+/g, '-')}-${dayIn(project.timezone, now.toISOString())}.ndjson`;
    res.setHeader('content-disposition', `attachment; filename="${name}"`);
    try {
      await pipeline(Readable.from(giveRecord(pool, project, now)), res);
    } catch (error) {
      // Whoever hung up is not there any more to be told.
      if ((error as { code?: unknown }).code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
    }
  });
  routes.post('/records', async (req, res) => {
    const { dry } = queryOf(recordQuery, req);
    if (req.is(RECORD_TYPE) === false) throw new Refused('bad-request', `A record is sent as ${RECORD_TYPE}.`);
    // Whoever is refused in the middle goes on sending, and hears of it after that.
    const pieces = req.setEncoding('utf8').iterator({ destroyOnReturn: false }) as AsyncIterable<string>;
    const taken = await takeRecord(pool, linesOf(pieces), dry === 'true').catch(async (error: unknown) => {
      if (req.destroyed && !req.complete) throw new Refused('bad-request', 'The record did not come to its end.');
      await sentWhole(req);
      throw error;
    });
    if (!taken.dry) void changes.look();
    res.status(taken.dry ? 200 : 201).json(taken);
  });
  return routes;
}
