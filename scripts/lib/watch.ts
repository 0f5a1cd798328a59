import type { Pool } from 'mysql2/promise';

/** Every statement that goes through a pool, for as long as it is watched. */
export class Watch {
  readonly statements: { sql: string; values: unknown[] }[] = [];
  private on = false;

  constructor(pool: Pool) {
    const note = (sql: unknown, values: unknown): void => {
      if (this.on)
        this.statements.push({
          sql: typeof sql === 'string' ? sql : (sql as { sql: string }).sql,
          values: (values as unknown[] | undefined) ?? [],
        });
    };
    const [query, getConnection] = [pool.query.bind(pool), pool.getConnection.bind(pool)];
    pool.query = (sql: never, values: never) => (note(sql, values), query(sql, values));
    pool.getConnection = async () => {
      const cx = await getConnection();
      const own = cx.query.bind(cx);
      // A connection of the pool is handed out many times: watched once.
      if (!(cx as unknown as { watched?: true }).watched) {
        (cx as unknown as { watched?: true }).watched = true;
        cx.query = (sql: never, values: never) => (note(sql, values), own(sql, values));
      }
      return cx;
    };
  }

  async of(work: () => Promise<unknown>): Promise<{ sql: string; values: unknown[] }[]> {
    this.statements.length = 0;
    this.on = true;
    await work();
    this.on = false;
    return [...this.statements];
  }
}
