import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, request, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Problem } from '@keen-mortar/contract';
import type { AnyInputs } from '@keen-mortar/core';
import { createPool } from 'mysql2/promise';
import { pino } from 'pino';
import type { Answer as Answered } from '../src/computing/answer.js';
import { Computing } from '../src/computing/computing.js';
import { connect, isAway, isFull, select } from '../src/db.js';
import { idFor } from '../src/demo.js';
import { build } from '../src/http/app.js';
import { hearing } from '../src/changes.js';
import { alone } from '../src/migrate.js';
import { Harness, id, LOADED_AT, people, urls } from './harness.js';

const by = people.oakhanger;

interface Heard {
  readonly status: number;
  readonly body: string;
  readonly headers: Readonly<Record<string, unknown>>;
}

/** A request as a page of another name sends it: fetch would not let us. */
const ask = (base: string, path: string, headers: Record<string, string> = {}, method = 'GET', body = ''): Promise<Heard> =>
  new Promise((resolve, reject) => {
    const { hostname, port } = new URL(base);
    const sent = request({ host: hostname, port, path, method, headers }, (res) => {
      let text = '';
      res.on('data', (chunk) => (text += String(chunk)));
      res.on('end', () => resolve({ status: res.statusCode ?? 0, body: text, headers: res.headers }));
    });
    sent.on('error', reject);
    sent.end(body);
  });

describe('who may ask', () => {
  let h: Harness;
  beforeAll(async () => (h = await Harness.withDemo()));
  afterAll(() => h.stop());

  it('only by a name of this machine: a page of another name that resolves to it reads nothing', async () => {
    const host = (name: string) => ask(h.base, '/api/v1/people', { host: name });
    const { port } = new URL(h.base);
    expect((await host(`127.0.0.1:${port}`)).status).toBe(200);
    expect((await host(`localhost:${port}`)).status).toBe(200);
    for (const name of [`rebound.example:${port}`, `127.0.0.1.example:${port}`, 'localhost.']) {
      const { status, body } = await host(name);
      expect([name, status]).toEqual([name, 421]);
      expect(body).not.toContain('Oakhanger');
    }
  });

  it('writes only from its own pages', async () => {
    const { host, port } = new URL(h.base);
    const write = (headers: Record<string, string>) =>
      ask(h.base, '/api/v1/compute/slump', { host, 'content-type': 'application/json', ...headers }, 'POST', '{"inputs":{}}');
    expect((await write({})).status).toBe(200);
    expect((await write({ origin: `http://127.0.0.1:${port}` })).status).toBe(200);
    expect((await write({ origin: 'http://elsewhere.example' })).status).toBe(403);
    expect((await write({ origin: 'null' })).status).toBe(403);
    expect((await write({ 'sec-fetch-site': 'cross-site' })).status).toBe(403);
  });

  it('a live line answers to HEAD and ends', async () => {
    const { host } = new URL(h.base);
    expect((await ask(h.base, `/api/v1/pours/${idFor('span-4')}/live`, { host }, 'HEAD')).status).toBe(200);
  });

  it('the running account reads and adds, but not what was migrated', async () => {
    await expectAsync(h.pool.query("INSERT INTO migration (name, digest) VALUES ('9999', 'x')")).toBeRejectedWithError(/denied/);
    await expectAsync(h.pool.query('DELETE FROM reading')).toBeRejectedWithError(/denied/);
    await expectAsync(h.pool.query("UPDATE reading SET text = '1'")).toBeRejectedWithError(/denied/);
    await expectAsync(h.pool.query("SELECT 1 INTO OUTFILE '/tmp/km-outfile'")).toBeRejectedWithError(/denied/);
  });
});

describe('work is bounded', () => {
  let h: Harness;
  beforeAll(async () => (h = await Harness.withDemo()));
  afterAll(() => h.stop());
  const MPa = (text: string) => ({ text, unit: 'MPa' as const });
  const jsonOf = (found: Answered): string => ('json' in found ? found.json : '');

  it('rows, digits and cells: too many are refused at their place', async () => {
    const pairs = (n: number) => ({ inputs: { pairs: Array.from({ length: n }, () => ({ early: MPa('25'), late: MPa('38') })) } });
    const many = await h.post<Problem>('/compute/early-warning', pairs(5000));
    expect([many.status, many.body.errors?.[0]?.path]).toEqual([422, 'inputs.pairs']);
    const digits = await h.post<Problem>('/compute/cube', { inputs: { a: { text: '1'.repeat(60), unit: 'mm' } } });
    expect(digits.status).toBe(422);
    // A series of strengths may be long: far longer than a form.
    const tests = Array.from({ length: 2000 }, (_t, i) => ({ strength: MPa(String(36 + (i % 5))) }));
    expect((await h.post('/compute/aci-acceptance', { inputs: { specified: MPa('35'), tests } })).status).toBe(200);
  });

  it('a working says how many lines more there were', async () => {
    const sand = {
      name: 'Sand',
      ssd: { text: '700', unit: 'kg' },
      moisture: { text: '1', unit: '%' },
      absorption: { text: '1', unit: '%' },
    };
    const { body } = await h.post<{ evaluation: { working: { kind: string; symbols: string }[] } }>('/compute/moisture-correction', {
      inputs: { water: { text: '160', unit: 'kg' }, aggregates: Array.from({ length: 120 }, () => sand) },
    });
    const { working } = body.evaluation;
    expect(working.length).toBeLessThan(160);
    expect([working.at(-1)?.kind, working.at(-1)?.symbols]).toEqual(['left-out', jasmine.stringMatching(/^and \d+ more$/) as never]);
  });

  it('a big computation runs beside: small ones are answered meanwhile, and a time limit ends it', async () => {
    const tests = Array.from({ length: 400 }, (_t, i) => ({ strength: MPa(String(36 + (i % 5))) }));
    const inputs = { tests, specified: MPa('35') } as unknown as AnyInputs;
    const impatient = new Computing(1);
    await expectAsync(
      impatient.compute({ method: 'aci-acceptance', inputs, variant: 'aci318', system: 'si', variants: false }),
    ).toBeRejectedWithError(/takes more than/);
    await impatient.close();
    const patient = new Computing();
    const big = patient.compute({ method: 'aci-acceptance', inputs, variant: 'aci318', system: 'si', variants: false });
    const small = await patient.compute({ method: 'slump', inputs: {}, variant: 'us', system: 'si', variants: false });
    expect(jsonOf(small)).toContain('missing');
    expect(jsonOf(await big)).toContain('acceptable');
    await patient.close();
  });

  it('what would not fit a table is refused before it gets there', async () => {
    const load = (more: object) => ({
      id: id(),
      by,
      number: 7000 + Math.floor(Math.random() * 1000),
      ticket: 'T',
      reason: 'for a test',
      truck: '1',
      batchedAt: LOADED_AT.toISOString(),
      design: { text: '1', unit: 'm3' },
      materials: [{ name: 'All', role: 'coarse', actual: '1', unit: 'kg' }],
      ...more,
    });
    const path = `/pours/${idFor('span-4')}/loads`;
    const of = async (more: object) => (await h.post<Problem>(path, load(more))).status;
    expect(await of({ materials: [{ name: 'N'.repeat(120), role: 'coarse', actual: '1', unit: 'kg' }] })).toBe(201);
    expect(await of({ materials: [{ name: 'N'.repeat(121), role: 'coarse', actual: '1', unit: 'kg' }] })).toBe(422);
    expect(await of({ ticket: 'T'.repeat(500) })).toBe(422);
    for (const batchedAt of ['0000-01-01T00:00:00+14:00', '9999-12-31T23:59:59-14:00']) expect(await of({ batchedAt })).toBe(422);
  });

  it('tiny and odd figures are computed or refused, never an internal error', async () => {
    const mm = (text: string) => ({ text, unit: 'mm' });
    for (const inputs of [
      { d1: mm('0.000001'), d2: mm('0.000001'), length: mm('0.000001'), load: { text: '0.0000001', unit: 'kN' } },
      { d1: mm('1e9'), d2: mm('--1'), length: mm('∞'), load: { text: 'NaN', unit: 'kN' } },
    ])
      expect((await h.post('/compute/cylinder', { inputs })).status).toBeLessThan(500);
    const air = {
      gauge: { text: '9', unit: '%' },
      correction: { text: '0', unit: '%' },
      division: { text: '0.1234567890123456789012', unit: '%' },
    };
    expect((await h.post('/compute/pressure-air', { inputs: air })).status).toBeLessThan(500);
  });
});

describe('faults', () => {
  it('a log says what went wrong, without the statement and its values', async () => {
    let logged = '';
    const log = pino({ level: 'error' }, { write: (line: string) => (logged += line) });
    const pool = createPool({ uri: urls.run });
    spyOn(pool, 'query').and.rejectWith(
      Object.assign(new Error("Duplicate entry 'secret reading' for key 'x'"), {
        code: 'ER_ODD',
        sql: "INSERT … 'secret reading'",
        errno: 1,
      }),
    );
    spyOn(pool, 'execute').and.rejectWith(
      Object.assign(new Error("Duplicate entry 'secret reading' for key 'x'"), {
        code: 'ER_ODD',
        sql: "INSERT … 'secret reading'",
        errno: 1,
      }),
    );
    const server = createServer(build({ pool, ...hearing(pool), log }));
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const { status } = await fetch(`${base}/api/v1/projects`);
    expect(status).toBeGreaterThanOrEqual(500);
    expect(logged).not.toContain('secret reading');
    server.close();
    await pool.end();
  });

  it('a disk that is full is said by health and by what is refused', async () => {
    const pool = connect(urls.run);
    expect(isFull(Object.assign(new Error(), { code: 'ER_DISK_FULL' }))).toBeTrue();
    expect(isFull(Object.assign(new Error(), { code: 'ER_DUP_ENTRY' }))).toBeFalse();
    const server = createServer(build({ pool, ...hearing(pool), log: pino({ level: 'silent' }), data: '/sys' }));
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as AddressInfo;
    const health = await fetch(`http://127.0.0.1:${port}/api/v1/health`);
    expect([health.status, ((await health.json()) as Problem).code]).toEqual([507, 'disk-full']);
    server.close();
    await pool.end();
  });

  it('two starts prepare one after the other', async () => {
    const order: string[] = [];
    const work = (name: string) => () => {
      order.push(`${name} begins`);
      return new Promise<void>((resolve) => setTimeout(() => (order.push(`${name} ends`), resolve()), 150));
    };
    await Promise.all([alone(urls.migrate, work('one')), alone(urls.migrate, work('two'))]);
    expect([order[0]!.split(' ')[0], order[1]]).toEqual([order[1]!.split(' ')[0]!, `${order[0]!.split(' ')[0]} ends`]);
    expect(order.length).toBe(4);
  });

  it('a statement that the database does not answer is given up', async () => {
    const pool = connect(urls.run);
    const refused = await select(pool, 'SELECT SLEEP(2)', [], 200).catch((error: unknown) => error);
    expect(isAway(refused)).toBeTrue();
    await pool.end();
  });
});

describe('the page', () => {
  let folder: string;
  let server: Server;
  let base: string;
  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), '.km-page-'));
    const web = join(folder, '.hidden', 'web');
    mkdirSync(web, { recursive: true });
    writeFileSync(join(web, 'index.html'), '<title>page</title>');
    writeFileSync(join(web, 'main-ABCDEFGH.js'), '1');
    const pool = connect(urls.run);
    server = createServer(build({ pool, ...hearing(pool), log: pino({ level: 'silent' }), web }));
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  });
  afterAll(() => {
    server.close();
    rmSync(folder, { recursive: true });
  });

  it('is served below a folder that begins with a dot, at every address of its own', async () => {
    for (const path of ['/', '/pours', '/scratch/slump'])
      expect([path, await (await fetch(base + path)).text()]).toEqual([path, '<title>page</title>']);
    expect((await fetch(`${base}/main-ABCDEFGH.js`)).headers.get('cache-control')).toContain('immutable');
  });

  it('a file that is not there is no page, and another verb is a problem', async () => {
    const gone = await fetch(`${base}/main-ZZZZZZZZ.js`);
    expect([gone.status, gone.headers.get('content-type')]).toEqual([404, jasmine.stringContaining('problem+json') as never]);
    const put = await fetch(`${base}/pours`, { method: 'PUT' });
    expect([put.status, put.headers.get('content-type')]).toEqual([405, jasmine.stringContaining('problem+json') as never]);
  });
});
