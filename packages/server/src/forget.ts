import { createConnection } from 'mysql2/promise';

/** No device sends again what it was told to have arrived so long ago, days. */
const KEPT_DAYS = 400;
/** So many in one statement: nobody waits for the rest. */
const AT_ONCE = 10_000;

/** Ids of writes that nobody will repeat any more are forgotten: what they wrote stays. For the account that may delete. */
export async function forgetWrites(migrateUrl: string): Promise<number> {
  const cx = await createConnection({ uri: migrateUrl });
  try {
    for (let all = 0; ;) {
      const [result] = await cx.query('DELETE FROM write_log WHERE written_at < UTC_TIMESTAMP(3) - INTERVAL ? DAY LIMIT ?', [
        KEPT_DAYS,
        AT_ONCE,
      ]);
      const gone = (result as { affectedRows: number }).affectedRows;
      all += gone;
      if (gone < AT_ONCE) return all;
    }
  } finally {
    await cx.end();
  }
}
