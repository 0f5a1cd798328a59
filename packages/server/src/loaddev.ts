import { connect } from './db.js';
import { loadDemo } from './demo.js';
import { migrate } from './migrate.js';
import { grantRunning } from './grants.js';
await migrate(process.env['DEV_MIGRATE_URL']!);
await grantRunning(process.env['DEV_MIGRATE_URL']!, process.env['DEV_RUN_URL']!);
const pool = connect(process.env['DEV_RUN_URL']!);
console.time('demo');
console.log(await loadDemo(pool, '/work/main/demo', new Date(process.env['DEMO_AT'] ?? Date.now()), 'Etc/UTC'));
console.timeEnd('demo');
const [rows] = (await pool.query(
  "SELECT f.finding, JSON_VALUE(states,'$[0].grade') g, COUNT(*) n, MIN(JSON_VALUE(states,'$[0].says')) s, MAX(JSON_VALUE(states,'$[0].says')) s2 FROM finding f GROUP BY 1,2",
)) as any;
for (const r of rows) console.log(r.finding, r.g, r.n, '|', r.s, '|', r.s2);
await pool.end();
