import { METHODS } from '@keen-mortar/core';
import type { Express } from 'express';
import { pino } from 'pino';
import { connect } from '../src/db.js';
import { hearing } from '../src/changes.js';
import { build } from '../src/http/app.js';
import { OPERATIONS } from '../src/http/openapi.js';
import { Harness, urls } from './harness.js';

interface Layer {
  readonly route?: { readonly path: string; readonly methods: Readonly<Record<string, boolean>> };
  readonly handle?: { readonly stack?: readonly Layer[] };
}

/** Every address that something is registered at. */
const routesOf = (layers: readonly Layer[]): string[] =>
  layers.flatMap(({ route, handle }) => [
    ...(route ? Object.keys(route.methods).map((verb) => `${verb} ${route.path}`) : []),
    ...routesOf(handle?.stack ?? []),
  ]);

describe('the interface, as it is described', () => {
  let h: Harness;
  beforeAll(async () => (h = await Harness.withDemo()));
  afterAll(() => h.stop());

  it('has every address that the server answers at, and no other', async () => {
    const pool = connect(urls.run);
    const { live, changes } = hearing(pool);
    const app = build({ pool, live, changes, log: pino({ level: 'silent' }) }) as Express & { router: { stack: readonly Layer[] } };
    const found = routesOf(app.router.stack).filter((r) => !r.includes('/docs/') && !r.includes('{*'));
    expect([...new Set(found)].sort()).toEqual(Object.keys(OPERATIONS).sort());
    live.close();
    await pool.end();
  });

  it('says of each write what it takes, of each method what it is computed from, and is read without a network', async () => {
    const { body } = await h.get<{
      openapi: string;
      paths: Record<string, Record<string, { requestBody?: object; parameters?: { name: string }[] }>>;
    }>('/openapi.json');
    expect(body.openapi).toBe('3.1.0');
    expect(Object.keys(body.paths).filter((p) => p.startsWith('/compute/')).length).toBe(METHODS.length);
    const mix = JSON.stringify(body.paths['/mixes']!['post']!.requestBody);
    for (const name of ['"code"', '"revision"', '"ingredients"', '"effectiveFrom"']) expect(mix).toContain(name);
    expect(body.paths['/ledger']!['get']!.parameters!.map((p) => p.name)).toEqual(jasmine.arrayContaining(['project', 'state', 'after']));
    const page = await h.text('/docs/');
    expect(page).toContain('swagger-initializer.js');
    expect(page).not.toMatch(/(src|href)="https?:/);
    expect(await h.text('/docs/swagger-initializer.js')).toContain('/api/v1/openapi.json');
  });
});
