import { join } from 'node:path';
import { connect } from './db.js';
import { loadDemo } from './demo.js';
import { ChangedMigration, migrate, NewerData } from './migrate.js';

/* Run before serving: migrations with one account, the demo scenario (into an empty database) with the other. */

const need = (name: string): string => {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set`);
  return value;
};

/** Exit status for something that a person can mend; the sentence is on the screen. */
const MENDABLE = 3;

try {
  const applied = await migrate(need('KEEN_MORTAR_MIGRATE_URL'));
  const pool = connect(need('KEEN_MORTAR_DATABASE_URL'));
  const loaded =
    process.env['KEEN_MORTAR_DEMO'] === '0' ? false : await loadDemo(pool, join(import.meta.dirname, '..', 'demo'), new Date());
  await pool.end();
  console.log(
    [applied.length > 0 ? `${applied.length} migrations applied` : 'tables are current', ...(loaded ? ['demo loaded'] : [])].join(', '),
  );
} catch (error) {
  if (error instanceof NewerData) {
    console.log(
      `This data was written by a newer Keen Mortar: ${error.message}. Start that version, or point KEEN_MORTAR_DATA at another folder.`,
    );
    process.exitCode = MENDABLE;
  } else if (error instanceof ChangedMigration) {
    console.log(
      `${error.message}. Take the project's own files again (git checkout packages/server/migrations), or point KEEN_MORTAR_DATA at another folder.`,
    );
    process.exitCode = MENDABLE;
  } else {
    throw error;
  }
}
