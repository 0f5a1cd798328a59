import { createRequire } from 'node:module';
import { dirname } from 'node:path';
import {
  computeBody,
  instrumentCommand,
  keep,
  keying,
  ledgerFilter,
  ledgerQuery,
  newCalibration,
  newCertificate,
  decisionTried,
  newDecision,
  newDevice,
  newEquipment,
  newFile,
  newHours,
  newImport,
  newItem,
  newKitFinding,
  newLoad,
  newAcceptance,
  newLook,
  newMeeting,
  newMix,
  newOwnCopy,
  newPerson,
  newPlanned,
  newPour,
  newProject,
  newReport,
  newRevision,
  newSample,
  newSampleEvent,
  newSet,
  newSpecification,
  newTest,
  newView,
  newWater,
  newWithdrawal,
  problem,
  removal,
  voiding,
} from '@keen-mortar/contract';
import { METHODS } from '@keen-mortar/core';
import express, { Router } from 'express';
import * as z from 'zod';
import { openingsQuery } from './day.js';
import { kitSheetQuery } from './kit.js';
import { seriesQuery } from './mixes.js';
import { RECORD_TYPE } from '../transfer/format.js';
import { recordQuery } from './records.js';
import { ownCopyQuery } from './own-copies.js';

interface Operation {
  readonly says: string;
  readonly body?: z.core.$ZodType;
  readonly query?: z.ZodObject;
  /** What it answers with, where that is no JSON. */
  readonly gives?: string;
}

const paged = z.object({ project: z.uuid(), offset: z.int().min(0).optional(), limit: z.int().min(1).max(200).optional() });
const asOf = z.object({ at: z.iso.datetime().optional() });
const pdf = 'application/pdf';

/** Everything that the server is asked, by how and where; bodies and questions are the schemas that it is checked with. */
export const OPERATIONS: Readonly<Record<string, Operation>> = {
  'get /health': { says: 'Whether the server and its database are well' },
  'get /people': { says: 'People' },
  'post /people': { says: 'Somebody new; the first one of an installation makes itself', body: newPerson },
  'get /certificates': { says: 'What everybody may do, and until when' },
  'post /certificates': { says: 'A certificate of somebody', body: newCertificate },
  'post /devices': { says: 'A device asks once how what it makes without a network is called', body: newDevice },
  'get /projects': { says: 'Projects' },
  'get /projects/:id': { says: 'A project' },
  'post /projects': { says: 'A new project', body: newProject },
  'get /specifications': { says: 'Specifications in use', query: paged },
  'get /specifications/:id': { says: 'A specification with its limits' },
  'post /specifications': { says: 'A specification, or one that takes another’s place', body: newSpecification },
  'get /mixes': { says: 'Mixes with their revisions', query: paged },
  'get /mixes/:id': { says: 'A mix' },
  'get /mixes/:id/sheet': { says: 'A mix with what it must meet, and its sources’ newest gravities' },
  'get /mixes/:id/trends': { says: 'What was found of each property of a mix', query: asOf },
  'get /mixes/:id/series': { says: 'Strength tests of a mix, with what may explain them, and what is still to break', query: seriesQuery },
  'get /mixes/:id/series.csv': { says: 'The same as a table', gives: 'text/csv', query: seriesQuery },
  'get /mixes/:id/series/whole': { says: 'All strength tests of a mix that count, as columns', query: seriesQuery },
  'post /mixes': { says: 'A mix, with its first revision where it is given', body: newMix },
  'post /sources/:id/acceptances': { says: 'What a test found of a source counts from a moment on', body: newAcceptance },
  'post /mixes/:id/looks': { says: 'What a mix stands on was looked at, and is left as it is', body: newLook },
  'post /mixes/:id/revisions': { says: 'A revision, from a moment on', body: newRevision },
  'get /sources': { says: 'Sources with their newest gravity', query: paged },
  'get /sources/:id': { says: 'A source as it was known at a moment', query: asOf },
  'get /equipment': { says: 'The kit, with the calibration in force', query: paged },
  'get /equipment/:id': { says: 'An instrument' },
  'get /equipment/:id/sheet': {
    says: 'An instrument, its calibrations, and what was tested with it: since, or what a finding puts in question',
    query: kitSheetQuery,
  },
  'post /equipment': { says: 'An instrument', body: newEquipment },
  'post /equipment/:id/findings': { says: 'An instrument was found wrong: what was tested with it is in question', body: newKitFinding },
  'post /equipment/:id/calibrations': { says: 'A calibration, with what was read', body: newCalibration },
  'get /own-copies': { says: 'A lab’s own copies of variants: in force and to come, or all of one variant', query: ownCopyQuery },
  'get /own-copies/:id': { says: 'One of them' },
  'post /own-copies': { says: 'A lab’s own figures of a variant, from a moment on', body: newOwnCopy },
  'get /items': { says: 'Items of a kind', query: paged.extend({ kind: z.string(), begins: z.string().optional() }) },
  'get /items/:id': { says: 'The sheet of an item: all around it' },
  'post /items': { says: 'An item of any kind', body: newItem },
  'post /items/:id/entries': { says: 'Facts added, amended, struck out', body: keep },
  'post /items/:id/voiding': { says: 'Taken back, or put right again', body: voiding },
  'post /items/:id/specimens': { says: 'A set of specimens is molded, with all that are in it', body: newSet },
  'get /items/:id/labels': { says: 'Labels for the molds of a set', gives: pdf },
  'get /instruments': { says: 'Instruments that the server is wired to, with what each shows' },
  'get /instruments/:id/live': { says: 'What an instrument shows, as it moves', gives: 'text/event-stream' },
  'post /instruments/:id/commands': { says: 'A word of its line protocol', body: instrumentCommand },
  'get /day': { says: 'All that is due, and what was done today', query: z.object({ project: z.uuid() }) },
  'get /bench': { says: 'Runs at the bench that wait for something', query: z.object({ project: z.uuid() }) },
  'get /breaks': {
    says: 'Specimens that wait to be broken, what was broken today, and where they lie',
    query: z.object({ project: z.uuid() }),
  },
  'get /breaks/:id': { says: 'A specimen with its companions, and what its mix gave before' },
  'get /breaks/:id/letter': { says: 'A letter to print about a low strength test', gives: pdf },
  'get /items/:id/findings': { says: 'What is found of an item, a mix, a source or an instrument' },
  'get /decisions': { says: 'What waits for a decision, and what was decided', query: paged },
  'get /decisions/effect': { says: 'What a decision would do, worked out and kept nowhere', query: decisionTried },
  'get /decisions/:id': { says: 'A decision' },
  'post /decisions': { says: 'Somebody’s word on a finding is put on record', body: newDecision },
  'post /decisions/:id/withdrawal': { says: 'A decision is taken back: it stays, and counts no more', body: newWithdrawal },
  'get /hours': { says: 'When somebody is in the laboratory, for some months', query: openingsQuery },
  'post /hours': { says: 'Opening hours, from a day on or for some days', body: newHours },
  'post /planned': { says: 'When something that is due is to be done, and by whom', body: newPlanned },
  'post /items/:id/specifications': { says: 'What a source or a structure must meet from a moment on', body: newMeeting },
  'post /items/:id/tests': { says: 'A test of an item is started', body: newTest },
  'post /items/:id/files': { says: 'A photo or a paper: the file is the body', query: newFile },
  'post /items/:id/keying': { says: 'Tells others what is being keyed', body: keying },
  'get /items/:id/live': { says: 'Changes of an item as they come', gives: 'text/event-stream' },
  'get /files/:id': { says: 'A file', gives: 'application/octet-stream' },
  'get /files/:id/preview': { says: 'A small picture of it', gives: 'image/jpeg' },
  'get /pours': { says: 'Pours', query: paged },
  'get /pours/:id': { says: 'A pour with its loads and samples' },
  'get /pours/:id/draw': { says: 'Loads that were drawn to be sampled, to print', gives: pdf },
  'get /pours/:id/loads': { says: 'Loads of a pour' },
  'get /pours/:id/live': { says: 'Changes of a pour as they come', gives: 'text/event-stream' },
  'post /pours': { says: 'A pour', body: newPour },
  'post /pours/:id/loads': { says: 'A load with its ticket', body: newLoad },
  'get /loads/:id': { says: 'A load' },
  'post /loads/:id/water': { says: 'Water added on site', body: newWater },
  'get /samples/:id': { says: 'A sample with its tests' },
  'get /samples/:id/live': { says: 'Changes of a sample as they come', gives: 'text/event-stream' },
  'post /samples': { says: 'A sample of a load', body: newSample },
  'post /samples/:id/events': { says: 'What happened to a sample', body: newSampleEvent },
  'post /samples/:id/tests': { says: 'A test of a sample is started', body: newTest },
  'post /samples/:id/keying': { says: 'Tells others what is being keyed', body: keying },
  'get /tests/:id': { says: 'A test with its readings and what came of them' },
  'get /tests/:id/reports': { says: 'Papers that a test stands on, the newest first' },
  'get /tests/:id/turns': { says: 'Every time that it was worked out' },
  'post /tests/:id/readings': { says: 'Readings are kept: all of them or none', body: keep },
  'get /ledger': { says: 'Tests, found and in order; `next` of a page begins the one after it', query: ledgerQuery },
  'get /ledger/counts': { says: 'How many of each week stand where', query: ledgerFilter },
  'get /ledger/export': {
    says: 'The same tests as a file',
    query: ledgerFilter.extend({ format: z.enum(['csv', 'json', 'xlsx']) }),
    gives: 'application/octet-stream',
  },
  'get /ledger/views': { says: 'Somebody’s ways of looking', query: z.object({ project: z.uuid(), by: z.uuid() }) },
  'post /ledger/views': { says: 'A way of looking is kept', body: newView },
  'post /ledger/views/:id/removal': { says: 'And put away', body: removal },
  'get /reports': { says: 'Reports, the newest first', query: paged },
  'get /reports/:id': { says: 'A report' },
  'get /reports/:id/paper': { says: 'Its paper', gives: pdf },
  'post /reports': { says: 'A report is issued; of the same thing it takes the place of the one before', body: newReport },
  'get /field-sheets/:method': {
    says: 'A sheet to write a test on by hand',
    query: z.object({ variant: z.string().optional(), system: z.enum(['si', 'us']).optional() }),
    gives: pdf,
  },
  'post /imports': { says: 'A table is brought in as a whole; or tried, and taken back', body: newImport },
  'get /records': { says: 'A project’s whole record as a file', query: z.object({ project: z.uuid() }), gives: RECORD_TYPE },
  'post /records': { says: 'A record is brought in as a whole: its file is the body; or tried, and taken back', query: recordQuery },
  'get /methods': { says: 'Every method' },
  'post /compute/:method': { says: 'Any computation; its inputs are those of its method' },
  'get /openapi.json': { says: 'This' },
};

type Json = Readonly<Record<string, unknown>>;

const schemaOf = (schema: z.core.$ZodType): Json => {
  const { $schema: _schema, ...rest } = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' });
  return rest;
};

function parametersOf(path: string, query: z.ZodObject | undefined): Json[] {
  const inPath = [...path.matchAll(/:(\w+)/g)].map(([, name]) => ({ name, in: 'path', required: true, schema: { type: 'string' } }));
  const asked = query === undefined ? {} : (schemaOf(query) as { properties?: Record<string, Json>; required?: string[] });
  return [
    ...inPath,
    ...Object.entries(asked.properties ?? {}).map(([name, schema]) => ({
      name,
      in: 'query',
      required: asked.required?.includes(name) === true && schema['default'] === undefined,
      schema,
    })),
  ];
}

const PROBLEM = {
  description: 'Refused, and why',
  content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
};

function operation(path: string, { says, body, query, gives = 'application/json' }: Operation, writes: boolean): Json {
  const parameters = parametersOf(path, query);
  return {
    summary: says,
    ...(parameters.length > 0 ? { parameters } : {}),
    ...(body ? { requestBody: { required: true, content: { 'application/json': { schema: schemaOf(body) } } } } : {}),
    responses: { [writes ? '201' : '200']: { description: says, content: { [gives]: {} } }, default: PROBLEM },
  };
}

/** The interface as OpenAPI 3.1, from the very schemas that requests are checked with. */
export function openapi(): Json {
  const paths: Record<string, Record<string, Json>> = {};
  const add = (path: string, verb: string, made: Json): void => {
    (paths[path] ??= {})[verb] = made;
  };
  for (const [name, op] of Object.entries(OPERATIONS)) {
    const [verb, path] = name.split(' ') as [string, string];
    if (path !== '/compute/:method') add(path.replace(/:(\w+)/g, '{$1}'), verb, operation(path, op, verb === 'post'));
  }
  // Each method has inputs of its own.
  for (const m of METHODS) add(`/compute/${m.id}`, 'post', operation('', { says: m.title, body: computeBody(m) }, false));
  return {
    openapi: '3.1.0',
    info: { title: 'Keen Mortar', version: '1', description: 'Tests of concrete and its aggregates, on record.' },
    servers: [{ url: '/api/v1' }],
    paths,
    components: { schemas: { Problem: schemaOf(problem) } },
  };
}

const require = createRequire(import.meta.url);

/** The document, and pages to read it with: nothing of them comes from elsewhere. */
export function openapiRoutes(): Router {
  const routes = Router();
  // Made once: it says the same as long as the server runs.
  let made: string | null = null;
  routes.get('/openapi.json', (_req, res) => {
    made ??= JSON.stringify(openapi());
    res.type('application/json').send(made);
  });
  routes.get('/docs/swagger-initializer.js', (_req, res) => {
    res
      .type('text/javascript')
      .send(
        "window.ui = SwaggerUIBundle({ url: '/api/v1/openapi.json', dom_id: '#swagger-ui', presets: [SwaggerUIBundle.presets.apis], validatorUrl: null });",
      );
  });
  routes.use('/docs', express.static(dirname(require.resolve('swagger-ui-dist/package.json')), { dotfiles: 'allow' }));
  return routes;
}
