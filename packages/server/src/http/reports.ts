import { newReport, reportCode } from '@keen-mortar/contract';
import { methodById } from '@keen-mortar/core';
import { Router } from 'express';
import * as z from 'zod';
import { issueReport } from '../commands/reports.js';
import { clockOf } from '../db.js';
import { Refused } from '../problems.js';
import { fieldSheet } from '../reports/field-sheet.js';
import { paperOf, reportOf, reports } from '../store/reports.js';
import type { Parts } from './app.js';
import { sendPdf } from './papers.js';
import { idOf, pageOf, projectIdOf, queryOf } from './requests.js';
import { write } from './writing.js';

const sheetQuery = z.strictObject({ variant: z.string().max(40).optional(), system: z.enum(['si', 'us']).default('si') });

/** Reports as they were issued, and sheets to write on by hand. */
export function reportRoutes(parts: Parts): Router {
  const { pool } = parts;
  const routes = Router();
  routes.get('/reports', async (req, res) => {
    const { offset, limit } = pageOf(req);
    res.json(await reports(pool, projectIdOf(req), offset, limit));
  });
  routes.post('/reports', async (req, res) => {
    const address = `${req.protocol}://${req.get('host') ?? 'localhost'}`;
    const { body } = await write(parts, req, 'report', newReport, null, (cx, act, report) => issueReport(cx, act, report, address));
    res.status(201).json(await reportOf(pool, body.id));
  });
  routes.get('/reports/:id', async (req, res) => {
    res.json(await reportOf(pool, idOf(req)));
  });
  routes.get('/reports/:id/paper', async (req, res) => {
    const report = await reportOf(pool, idOf(req));
    sendPdf(res, reportCode(report.number), await paperOf(pool, report.id));
  });
  routes.get('/field-sheets/:method', async (req, res) => {
    const m = methodById(req.params.method);
    if (!m) throw new Refused('not-found', `There is no method ${req.params.method}.`);
    const { variant = Object.keys(m.variants)[0]!, system } = queryOf(sheetQuery, req);
    if (!Object.hasOwn(m.variants, variant)) throw new Refused('not-found', `${m.title} has no variant ${variant}.`);
    sendPdf(res, `${m.id}-field-sheet`, await fieldSheet(m, variant, system, await clockOf(pool)));
  });
  return routes;
}
