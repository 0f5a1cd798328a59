/* The part of npm run bench that asks the server: the worst request of each method at its allowed size, and malformed ones by the thousand. */
import { createServer, type Server } from 'node:http';
import { inputsSchema } from '@keen-mortar/contract';
import { METHODS, MOST_ROWS, type AnyMethod, type Field, type Shape, unspell } from '@keen-mortar/core';
import { createPool } from 'mysql2/promise';
import { pino } from 'pino';
import { build } from '../packages/server/src/http/app.js';
import { hearing } from '../packages/server/src/changes.js';

const ROUNDS = 3;
const MOST_MS = 250;

/** The same numbers in every run. */
let seed = 2611;
const random = (): number => (seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648;
const digits = (n: number): string => Array.from({ length: n }, () => Math.floor(random() * 10)).join('');

/** A reading of as many digits as are taken, near the one that it is made from. */
const long = (text: string): string =>
  /^-?\d+(\.\d+)?$/.test(text) ? `${text}${text.includes('.') ? '' : '.'}${digits(Math.max(0, 18 - text.length))}` : text;

function worstOf(field: Field, value: unknown): unknown {
  if (field.kind === 'qty') return field.sieve ? value : { ...(value as object), text: long((value as { text: string }).text) };
  if (field.kind !== 'rows') return value;
  const rows = value as Readonly<Record<string, unknown>>[];
  const of = field.of as Shape;
  return Array.from({ length: field.most ?? MOST_ROWS }, (_r, i) => inputsOf(of, rows[i % rows.length]!));
}

const inputsOf = (fields: Shape, values: Readonly<Record<string, unknown>>): Record<string, unknown> =>
  Object.fromEntries(Object.entries(values).map(([id, value]) => [id, value === null ? null : worstOf(fields[id]!, value)]));

/** The largest request that the method's schema lets through, from its example. */
const worst = (m: AnyMethod): unknown => inputsOf(m.fields as Shape, unspell(m.fields as Shape, m.example) as Record<string, unknown>);

/** Values that nobody means: of the wrong kind, odd, endless. */
const ODD: readonly (() => unknown)[] = [
  () => null,
  () => [],
  () => ({}),
  () => digits(3),
  () => -1,
  () => true,
  () => ({ text: digits(40), unit: 'kg' }),
  () => ({ text: `0.${digits(35)}`, unit: 'mm' }),
  () => ({ text: '-0', unit: '%' }),
  () => ({ text: '1e999', unit: 'MPa' }),
  () => ({ text: 'NaN', unit: 'g' }),
  () => ({ text: '１２', unit: 'g' }),
  () => ({ text: "1'; DROP TABLE reading; --", unit: 'kg' }),
  () => ({ text: '1', unit: '__proto__' }),
  () => ({ text: '1', unit: 'constructor' }),
  () => ({ text: '1/0', unit: 'in' }),
  () => ({ text: '', unit: 's' }),
  () => 'x'.repeat(1000),
  () => '9999-12-31T23:59:59-14:00',
  () => Array.from({ length: 300 }, () => ({})),
];

/** An example with some of its values changed for odd ones, at any depth. */
function spoiled(fields: Shape, values: Readonly<Record<string, unknown>>): Record<string, unknown> {
  const entries = Object.entries(values).map(([id, value]): [string, unknown] => {
    const field = fields[id];
    if (random() < 0.35) return [random() < 0.03 ? '__proto__' : id, ODD[Math.floor(random() * ODD.length)]!()];
    if (field?.kind === 'rows' && Array.isArray(value))
      return [id, value.map((row) => spoiled(field.of as Shape, row as Record<string, unknown>))];
    if (field?.kind === 'qty' && value !== null && random() < 0.4) {
      const { unit } = value as { unit: string };
      return [
        id,
        { text: random() < 0.5 ? digits(1 + Math.floor(random() * 20)) : `0.${'0'.repeat(Math.floor(random() * 20))}${digits(3)}`, unit },
      ];
    }
    return [id, value];
  });
  return Object.fromEntries(entries);
}

const COUNT = Number(process.env['KM_REQUESTS'] ?? 20_000);

async function listen(): Promise<{ server: Server; url: string }> {
  // No record is asked for: the database is never reached.
  const pool = createPool({ uri: 'mysql://nobody@127.0.0.1:9/none' });
  const server = createServer(build({ pool, ...hearing(pool), log: pino({ level: 'silent' }) }));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return { server, url: `http://127.0.0.1:${(server.address() as { port: number }).port}/api/v1/compute` };
}

const { server, url } = await listen();
const post = async (id: string, body: string): Promise<{ status: number; ms: number; text: string }> => {
  const since = performance.now();
  const answer = await fetch(`${url}/${id}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body });
  const text = await answer.text();
  return { status: answer.status, ms: performance.now() - since, text };
};

const times: { id: string; variant: string; ms: number; kB: number; answer: number; status: number }[] = [];
for (const m of METHODS) {
  const inputs = worst(m);
  const fits = inputsSchema(m.fields as Shape).safeParse(inputs).success;
  for (const variant of Object.keys(m.variants)) {
    const body = JSON.stringify({ inputs, variant, variants: true });
    if (!fits) console.log(`${m.id}: the worst request does not pass its schema`);
    let best = Infinity;
    let last = { status: 0, ms: 0, text: '' };
    for (let i = 0; i < ROUNDS; i++) {
      last = await post(m.id, body);
      best = Math.min(best, last.ms);
    }
    times.push({ id: m.id, variant, ms: best, kB: body.length / 1000, answer: last.text.length / 1000, status: last.status });
  }
}
times.sort((a, b) => b.ms - a.ms);
for (const t of times.slice(0, 12))
  console.log(
    `${`worst request of ${t.id} (${t.variant}), ${t.kB.toFixed(0)} kB in, ${t.answer.toFixed(0)} kB out, ${t.status}`.padEnd(90)} ${t.ms.toFixed(0).padStart(6)} ms`,
  );
const over = times.filter((t) => t.ms > MOST_MS);
console.log(
  over.length === 0 ? `every worst request is answered within ${MOST_MS} ms` : `${over.length} worst requests take more than ${MOST_MS} ms`,
);

const statuses = new Map<number, number>();
let slowest = { id: '', ms: 0 };
for (let i = 0; i < COUNT; i++) {
  const m = METHODS[i % METHODS.length]!;
  const example = unspell(m.fields as Shape, m.example) as Record<string, unknown>;
  const broken = random() < 0.03;
  const body = JSON.stringify({
    inputs: spoiled(m.fields as Shape, example),
    ...(random() < 0.5 ? { variant: random() < 0.8 ? Object.keys(m.variants).at(-1) : 'toString' } : {}),
    ...(random() < 0.3 ? { system: random() < 0.8 ? 'us' : 'cgs' } : {}),
    ...(random() < 0.3 ? { variants: true } : {}),
  });
  const { status, ms, text } = await post(m.id, broken ? body.slice(0, Math.floor(random() * body.length)) : body);
  statuses.set(status, (statuses.get(status) ?? 0) + 1);
  if (status >= 500) console.log(`${m.id}: ${status} ${text.slice(0, 200)} for ${body.slice(0, 1500)}`);
  if (ms > slowest.ms) slowest = { id: m.id, ms };
}
console.log(
  `${COUNT} malformed and extreme requests over ${METHODS.length} methods: ${[...statuses]
    .sort(([a], [b]) => a - b)
    .map(([status, n]) => `${n} × ${status}`)
    .join(', ')}; slowest ${slowest.ms.toFixed(0)} ms (${slowest.id})`,
);
server.close();
process.exit(0);
