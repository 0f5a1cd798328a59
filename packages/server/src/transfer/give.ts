import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import type { Project } from '@keen-mortar/contract';
import type { Connection } from 'mysql2';
import type { Pool, PoolConnection } from 'mysql2/promise';
import { FORMAT, VERSION, type Head } from './format.js';
import { columnsOf, RECORD, type Column, type RecordTable } from './tables.js';

/** So much text goes out at once. */
const CHUNK = 64 * 1024;

type Cell = string | null;

/** The rows of a table as they come: the whole is never in memory. */
function rowsOf(cx: PoolConnection, { order }: RecordTable, from: string, columns: readonly Column[], projectId: string): Readable {
  const bytes = new Set(columns.filter((c) => c.bytes).map((c) => c.name));
  const sql = `SELECT ${columns.map((c) => `x.${c.name}`).join(', ')} FROM ${from}${order ? ` ORDER BY ${order}` : ''}`;
  // Only the connection itself streams.
  return (cx.connection as unknown as Connection)
    .query({
      sql,
      values: [projectId],
      rowsAsArray: true,
      // As the database writes it: no figure and no moment is read and written anew.
      typeCast: (field) => (bytes.has(field.name) ? (field.buffer()?.toString('base64') ?? null) : field.string()),
    })
    .stream({ highWaterMark: 200 });
}

async function* linesOf(cx: PoolConnection, project: Project, made: Date): AsyncGenerator<string> {
  const { id, code, name } = project;
  const begin: Head = { format: FORMAT, version: VERSION, made: made.toISOString(), project: { id, code, name } };
  yield JSON.stringify(begin);
  for (const table of RECORD) {
    const columns = await columnsOf(cx, table);
    yield JSON.stringify({ table: table.name, columns: columns.map((c) => c.name) });
    for (const from of table.from)
      for await (const row of rowsOf(cx, table, from, columns, id) as AsyncIterable<readonly Cell[]>) yield JSON.stringify(row);
  }
}

/** A project’s whole record as it stands at one moment, in the lines of its file, a good many at a time. */
export async function* giveRecord(pool: Pool, project: Project, made: Date): AsyncGenerator<string> {
  const cx = await pool.getConnection();
  let whole = false;
  try {
    await cx.query('SET TRANSACTION ISOLATION LEVEL REPEATABLE READ');
    await cx.query('START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY');
    const hash = createHash('sha256');
    let [chunk, rows] = ['', 0];
    for await (const line of linesOf(cx, project, made)) {
      if (line.startsWith('[')) rows += 1;
      chunk += `${line}\n`;
      if (chunk.length < CHUNK) continue;
      hash.update(chunk);
      yield chunk;
      chunk = '';
    }
    hash.update(chunk);
    yield `${chunk}${JSON.stringify({ rows, sha256: hash.digest('hex') })}\n`;
    await cx.query('COMMIT');
    whole = true;
  } finally {
    // Whoever hung up in the middle left rows on the line: it serves nobody else.
    if (whole) cx.release();
    else cx.destroy();
  }
}
