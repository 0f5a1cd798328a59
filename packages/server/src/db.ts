import { createPool, type Pool, type PoolConnection, type ResultSetHeader, type RowDataPacket } from 'mysql2/promise';

/** Anything that statements can be sent through: the pool, or the connection of a transaction. */
export type Cx = Pool | PoolConnection;

/** A pool whose DATETIMEs are UTC and whose DATEs stay text. */
export function connect(url: string): Pool {
  return createPool({
    uri: url,
    timezone: 'Z',
    dateStrings: ['DATE'],
    jsonStrings: true,
    connectionLimit: 10,
    connectTimeout: 3000,
    charset: 'utf8mb4',
  });
}

export async function select<T>(cx: Cx, sql: string, values: readonly unknown[] = []): Promise<T[]> {
  const [rows] = await cx.query<RowDataPacket[]>(sql, [...values]);
  return rows as T[];
}

export async function selectOne<T>(cx: Cx, sql: string, values: readonly unknown[] = []): Promise<T | undefined> {
  return (await select<T>(cx, sql, values))[0];
}

/** Adds a row: columns are named by the code, values are always parameters. */
export async function insert(cx: Cx, table: string, row: Readonly<Record<string, unknown>>): Promise<number> {
  const columns = Object.keys(row);
  const sql = `INSERT INTO ${table} (${columns.join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`;
  const [result] = await cx.query<ResultSetHeader>(sql, Object.values(row));
  return result.insertId;
}

export async function transaction<T>(pool: Pool, work: (cx: PoolConnection) => Promise<T>): Promise<T> {
  const cx = await pool.getConnection();
  try {
    await cx.beginTransaction();
    const result = await work(cx);
    await cx.commit();
    return result;
  } catch (error) {
    await cx.rollback().catch(() => undefined);
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
]);

export const isAway = (error: unknown): boolean => AWAY.has(String(codeOf(error)));

/** Two transactions met: the same work may simply be tried again. */
export const isCollision = (error: unknown): boolean =>
  ['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_CHECKREAD'].includes(String(codeOf(error)));
