import { createHash } from 'node:crypto';
import { request } from 'node:http';
import type { LedgerPage, Problem, RecordTaken, Test } from '@keen-mortar/contract';
import { connect } from '../src/db.js';
import { migrate } from '../src/migrate.js';
import { RECORD } from '../src/transfer/tables.js';
import { Bench, projectId } from './bench.js';
import { Harness, id, urls } from './harness.js';

describe('a whole record', () => {
  let h: Harness;
  let other: Harness;
  let lines: string[];
  const drop = async () => {
    const pool = connect(urls.empty);
    const [rows] = await pool.query('SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE()');
    await pool.query('SET SESSION foreign_key_checks = 0');
    const cx = await pool.getConnection();
    await cx.query('SET SESSION foreign_key_checks = 0');
    for (const { name } of rows as { name: string }[]) await cx.query(`DROP TABLE \`${name}\``);
    cx.release();
    await pool.end();
  };
  beforeAll(async () => {
    h = await Harness.withDemo();
    await drop();
    await migrate(urls.empty);
    other = await Harness.start(connect(urls.empty));
    lines = (await h.text(`/records?project=${projectId}`)).trimEnd().split('\n');
  });
  afterAll(async () => {
    await h.stop();
    await other.stop();
    await drop();
  });

  const bring = async (text: string, query = '') => {
    const answer = await fetch(`${other.base}/records${query}`, {
      method: 'POST',
      headers: { 'content-type': 'application/x-ndjson' },
      body: text,
    });
    return { status: answer.status, body: (await answer.json()) as RecordTaken & Problem };
  };
  const whole = (all: readonly string[]) => `${all.join('\n')}\n`;
  const nothing = async () => (await other.count('project')) + (await other.count('test')) + (await other.count('person'));
  /** With an end that fits what is in it. */
  const sealed = (all: readonly string[]) => {
    const before = all.slice(0, -1);
    const sha256 = createHash('sha256').update(whole(before)).digest('hex');
    return whole([...before, JSON.stringify({ rows: before.filter((l) => l.startsWith('[')).length, sha256 })]);
  };
  /** Of a table of the file: where its rows begin. */
  const rowsOf = (table: string) => lines.findIndex((l) => l.startsWith(`{"table":"${table}"`)) + 1;

  it('is every table but what this server alone counts', async () => {
    const [rows] = await other.pool.query('SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE()');
    const own = new Set(['device', 'migration', 'pending', 'write_log']);
    const all = (rows as { name: string }[]).map((t) => t.name).filter((name) => !own.has(name));
    expect(RECORD.map((t) => t.name).sort()).toEqual(all.sort());
  });

  it('that was changed, cut off or is another’s is refused at its line, and leaves no trace', async () => {
    const last = lines.length;
    const at = rowsOf('entry');
    const changed = lines.with(at, lines[at]!.replace(/"\d+(\.\d+)?"/, '"9.9"'));
    const cases: [string, string[], string | undefined][] = [
      ['a figure changed', changed, `line ${last}`],
      ['a row lost', lines.toSpliced(at, 1), `line ${last - 1}`],
      ['cut short', lines.slice(0, -1), `line ${last}`],
      ['a row broken', lines.with(at, lines[at]!.slice(0, -5)), `line ${at + 1}`],
      ['a row twice', lines.toSpliced(at, 0, lines[at]!), `line ${at + 2}`],
      ['another version', lines.with(rowsOf('test') - 1, '{"table":"test","columns":["id","colour"]}'), `line ${rowsOf('test')}`],
      ['a text without an end', lines.with(at, lines[at]!.replace(/"hand"/, `"${'x'.repeat(1_000_001)}"`)), `line ${at + 1}`],
      ['no record', ['{"format":"something"}'], 'line 1'],
      ['nothing', [], 'line 1'],
    ];
    for (const [name, all, path] of cases) {
      const { status, body } = await bring(whole(all));
      expect([status, body.errors?.[0]?.path]).withContext(`${name}: ${body.detail}`).toEqual([422, path]);
      expect(await nothing())
        .withContext(name)
        .toBe(0);
    }
    // Whole by its own count, and yet no record: rows of nobody, and rows that name what is not there.
    const stray = await bring(sealed(lines.toSpliced(rowsOf('counter'), 0, JSON.stringify([id(), 'pour', '7']))));
    expect([stray.status, stray.body.detail]).toEqual([422, 'Some of counter belongs to no part of this record.']);
    const kit = rowsOf('test_kit');
    const [test, equipment, , moment] = JSON.parse(lines[kit]!) as string[];
    const lost = await bring(sealed(lines.with(kit, JSON.stringify([test, equipment, id(), moment]))));
    expect([lost.status, lost.body.detail]).toEqual([422, 'Some of test_kit names a row of calibration that is not there.']);
    expect(await nothing()).toBe(0);
    const endless = await bring('x'.repeat(25 * 1024 * 1024));
    expect([endless.status, endless.body.code]).toEqual([413, 'too-large']);
    expect((await other.post<Problem>('/records', '{}')).status).toBe(400);
  });

  it('is the same record in an empty installation: looked at first without a trace, then brought in once', async () => {
    const looked = await bring(whole(lines), '?dry=true');
    expect([looked.status, looked.body.dry, looked.body.rows]).toEqual([200, true, lines.filter((l) => l.startsWith('[')).length]);
    expect(await nothing()).toBe(0);
    const taken = await bring(whole(lines));
    expect([taken.status, taken.body.tables]).toEqual([201, looked.body.tables]);

    // Given again from there, it is the same line for line.
    const again = (await other.text(`/records?project=${projectId}`)).trimEnd().split('\n');
    expect(again.slice(1, -1).sort()).toEqual(lines.slice(1, -1).sort());
    // And what is asked of both is answered alike.
    const ledger = async (from: Harness) => (await from.get<LedgerPage>(`/ledger?project=${projectId}&limit=200`)).body.rows;
    const [here, there] = [await ledger(h), await ledger(other)];
    expect(there).toEqual(here);
    for (const { testId } of here.slice(0, 20))
      expect((await other.get<Test>(`/tests/${testId}`)).body).toEqual((await h.get<Test>(`/tests/${testId}`)).body);
    // It goes on there.
    const b = new Bench(other);
    const facts = { pit: 'Brackdown', kind: 'fine', nominal: { text: '4.75', unit: 'mm' } };
    const [mine, theirs] = [
      await new Bench(h).item('source', null, facts, { name: 'Washed' }),
      await b.item('source', null, facts, { name: 'Washed' }),
    ];
    expect(theirs.item.code).toBe(mine.item.code);

    const twice = await bring(whole(lines));
    expect([twice.status, twice.body.code]).toEqual([409, 'already-exists']);
    // What is another project's is named by none of it: everything of this one under ids of its own, but its first instrument.
    const renamed = (line: string) =>
      line.replace(
        /"([0-9a-f]{8})-([0-9a-f]{4})-/g,
        (_m, a: string, b: string) => `"${a}-${b.replace(/^./, (c) => (c === 'f' ? '0' : 'f'))}-`,
      );
    const people = lines.slice(rowsOf('person'), rowsOf('project') - 1).filter((line) => line.startsWith('['));
    const copy = lines.map((line) => (people.includes(line) ? line : renamed(line)).replaceAll('"QM-FB"', '"QM-3"'));
    const keptIds = people.map((line) => (JSON.parse(line) as string[])[0]!);
    const own = copy.map((line) => keptIds.reduce((text, known) => text.replaceAll(renamed(`"${known}"`), `"${known}"`), line));
    const kit = rowsOf('test_kit');
    const [test, , calibration, moment] = JSON.parse(own[kit]!) as string[];
    const [, instrument] = JSON.parse(lines[kit]!) as string[];
    const foreign = await bring(sealed(own.with(kit, JSON.stringify([test, instrument, calibration, moment]))));
    expect([foreign.status, foreign.body.detail]).toEqual([422, 'Some of test_kit names a row of equipment that is not there.']);
    // A row of a record that hangs on another is no part of it.
    const elsewhere = projectId.replace(/^./, (c) => (c === 'a' ? 'b' : 'a'));
    const text = whole(lines.slice(0, -1)).replaceAll(projectId, elsewhere).replaceAll('"QM-FB"', '"QM-2"');
    expect((await bring(text)).status).toBe(422);
    expect(await other.count('project')).toBe(1);
  }, 60_000);

  it('that is not sent to its end leaves nothing', async () => {
    await new Promise<void>((resolve) => {
      const url = new URL(`${other.base}/records`);
      const sending = request(url, { method: 'POST', headers: { 'content-type': 'application/x-ndjson', 'transfer-encoding': 'chunked' } });
      sending.on('error', () => resolve());
      sending.write(whole(lines.slice(0, 200)).replaceAll(projectId, projectId.replace(/^./, 'c')), () =>
        setTimeout(() => sending.destroy(), 300),
      );
    });
    await new Promise((resolve) => setTimeout(resolve, 500));
    expect(await other.count('project', "id LIKE 'c%' AND id <> ?", [projectId])).toBe(0);
  });
});
