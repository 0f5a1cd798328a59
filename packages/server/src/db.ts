import { NOW } from './clock.js';
import { createPool, type Pool, type PoolConnection, type ResultSetHeader, type RowDataPacket } from 'mysql2/promise';

/** Anything that statements can be sent through: the pool, or the connection of a transaction. */
export type Cx = Pool | PoolConnection;

/** A pool whose DATETIMEs are UTC and whose DATEs stay text. */
export function connect(url: string): Pool {
  const pool = createPool({
    uri: url,
    timezone: 'Z',
    dateStrings: ['DATE'],
    jsonStrings: true,
    connectionLimit: 10,
    queueLimit: 400,
    connectTimeout: 3000,
    charset: 'utf8mb4',
  });
  // What a command has locked it reads as it is now, not as it was when its transaction began.
  pool.on('connection', (cx) => void cx.query('SET SESSION TRANSACTION ISOLATION LEVEL READ COMMITTED'));
  return pool;
}

/** A database that does not answer within this, ms, is away: frozen, or its disk is. */
const LONGEST_QUERY = 8000;

export async function select<T>(cx: Cx, sql: string, values: readonly unknown[] = [], timeout = LONGEST_QUERY): Promise<T[]> {
  const [rows] = await cx.query<RowDataPacket[]>({ sql, timeout }, [...values]);
  return rows as T[];
}

export async function selectOne<T>(cx: Cx, sql: string, values: readonly unknown[] = []): Promise<T | undefined> {
  return (await select<T>(cx, sql, values))[0];
}

/** Adds a row: columns are named by the code, values are always parameters. */
export async function insert(cx: Cx, table: string, row: Readonly<Record<string, unknown>>): Promise<number> {
  const columns = Object.keys(row);
  const sql = `INSERT INTO ${table} (${columns.join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`;
  const [result] = await cx.query<ResultSetHeader>({ sql, timeout: LONGEST_QUERY }, Object.values(row));
  return result.insertId;
}

/** Adds what is long and no text: sent as it is, not spelled out in the statement. */
export async function insertBytes(cx: Cx, sql: string, values: readonly (string | Buffer | null)[]): Promise<void> {
  await cx.execute({ sql, timeout: LONGEST_QUERY }, [...values]);
}

export async function transaction<T>(pool: Pool, work: (cx: PoolConnection) => Promise<T>): Promise<T> {
  const cx = await pool.getConnection();
  try {
    await cx.query({ sql: 'START TRANSACTION', timeout: LONGEST_QUERY });
    const result = await work(cx);
    await cx.query({ sql: 'COMMIT', timeout: LONGEST_QUERY });
    return result;
  } catch (error) {
    // A connection that timed out is gone; the database takes back what it had not committed.
    if (isAway(error)) cx.destroy();
    else await cx.query({ sql: 'ROLLBACK', timeout: LONGEST_QUERY }).catch(() => undefined);
    throw error;
  } finally {
    cx.release();
  }
}

const codeOf = (error: unknown): unknown => (error as { code?: unknown } | null)?.code;

export const isDuplicate = (error: unknown): boolean => codeOf(error) === 'ER_DUP_ENTRY';

const AWAY = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'ENOENT',
  'ETIMEDOUT',
  'PROTOCOL_CONNECTION_LOST',
  'ER_SERVER_SHUTDOWN',
  'EPIPE',
  'ER_CON_COUNT_ERROR',
  'PROTOCOL_SEQUENCE_TIMEOUT',
  'POOL_CLOSED',
]);

export const isAway = (error: unknown): boolean =>
  AWAY.has(String(codeOf(error))) || /queue limit/i.test((error as Error | null)?.message ?? '');

const FULL = new Set(['ER_DISK_FULL', 'ER_RECORD_FILE_FULL', 'ER_ERROR_ON_WRITE', 'ER_DISK_FULL_NOWAIT', 'ENOSPC']);

/** The disk under the database is full: nothing can be kept until somebody frees some. */
export const isFull = (error: unknown): boolean =>
  FULL.has(String(codeOf(error))) || /errno: 28\b|No space left/i.test((error as Error | null)?.message ?? '');

/** The database's own clock, UTC: the moment of every row. */
export async function clockOf(cx: Cx, timeout?: number): Promise<Date> {
  return (await select<{ now: Date }>(cx, `SELECT ${NOW} AS now`, [], timeout))[0]!.now;
}

/** Two transactions met: the same work may simply be tried again. */
export const isCollision = (error: unknown): boolean =>
  ['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_CHECKREAD'].includes(String(codeOf(error)));

/** Adds rows of the same columns in one statement. */
export async function insertAll(cx: Cx, table: string, rows: readonly Readonly<Record<string, unknown>>[]): Promise<void> {
  if (rows.length === 0) return;
  const columns = Object.keys(rows[0]!);
  await cx.query({ sql: `INSERT INTO ${table} (${columns.join(', ')}) VALUES ?`, timeout: LONGEST_QUERY }, [
    rows.map((row) => columns.map((column) => row[column])),
  ]);
}

/** Changes what is derived; how many rows it changed. */
export async function change(cx: Cx, sql: string, values: readonly unknown[]): Promise<ResultSetHeader> {
  const [result] = await cx.query<ResultSetHeader>({ sql, timeout: LONGEST_QUERY }, [...values]);
  return result;
}
