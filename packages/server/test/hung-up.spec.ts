import { Writable } from 'node:stream';
import { request } from 'node:http';
import { FORMATS, send, type Format } from '../src/exchange.js';
import { namingOf, type Exported, type Naming } from '../src/queries/export.js';
import { projectOf } from '../src/store/projects.js';
import { projectId } from './bench.js';
import { Harness } from './harness.js';

/** Somebody who takes so many bytes and then is gone, or who takes nothing at all until they are. */
class Listener extends Writable {
  private left: number;
  constructor(bytes: number) {
    super({ highWaterMark: 1024 });
    this.left = bytes;
  }
  override _write(chunk: Buffer, _encoding: string, done: () => void): void {
    this.left -= chunk.length;
    if (this.left > 0) return done();
    // The client hung up: nothing that is written arrives any more.
    setTimeout(() => this.destroy(), 5);
  }
}

describe('whoever hangs up', () => {
  let h: Harness;
  let rejected: unknown[] = [];
  const hear = (error: unknown): number => rejected.push(error);
  beforeAll(async () => {
    h = await Harness.withDemo();
    process.on('unhandledRejection', hear);
  });
  afterAll(async () => {
    process.off('unhandledRejection', hear);
    await h.stop();
  });
  beforeEach(() => (rejected = []));
  const rested = () => new Promise((resolve) => setTimeout(resolve, 20));

  for (const format of Object.keys(FORMATS) as Format[])
    for (const [when, bytes] of [
      ['at the first byte', 1],
      ['in the middle', 200_000],
    ] as const)
      it(`${when} of a list as ${format} ends it, and nothing else`, async () => {
        const { naming, ...one } = await oneTest(h);
        let closed = false;
        async function* pages(): AsyncGenerator<readonly Exported[]> {
          try {
            for (let page = 0; page < 400; page++) {
              // As the database does, which is asked for each.
              await new Promise((resolve) => setImmediate(resolve));
              yield Array.from({ length: 50 }, () => one);
            }
          } finally {
            closed = true;
          }
        }
        await send(format, pages(), naming, new Listener(bytes));
        await rested();
        expect({ rejected, closed }).toEqual({ rejected: [], closed: true });
      });

  /** A request whose answer is cut after so many bytes. */
  const cut = (path: string, after: number): Promise<void> =>
    new Promise((resolve, reject) => {
      const asked = request(h.base + path, (res) => {
        let got = 0;
        res.on('data', (chunk: Buffer) => {
          got += chunk.length;
          if (got >= after) res.destroy();
        });
        res.on('close', () => resolve());
        res.on('error', () => undefined);
      });
      asked.on('error', reject);
      asked.end();
    });

  it('on a record or a list hurts nobody: the next request is answered, and every connection is given back', async () => {
    for (const path of ['/records?', ...Object.keys(FORMATS).map((f) => `/ledger/export?format=${f}&`)])
      for (const after of [1, 60_000]) await cut(`${path}project=${projectId}`, after);
    await rested();
    expect(rejected).toEqual([]);
    const all = await Promise.all(Array.from({ length: 12 }, () => h.get('/projects')));
    expect(new Set(all.map((a) => a.status))).toEqual(new Set([200]));
  });
});

async function oneTest(h: Harness): Promise<Exported & { naming: Naming }> {
  const list = JSON.parse(await h.text(`/ledger/export?project=${projectId}&format=json`)) as (Exported['line'] &
    Pick<Exported, 'results' | 'readings'>)[];
  const { results, readings, ...line } = list[0]!;
  return { line, results, readings, naming: await namingOf(h.pool, await projectOf(h.pool, projectId)) };
}
