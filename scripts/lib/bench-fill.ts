import type { Connection, RowDataPacket } from 'mysql2/promise';
import { idFor } from '../../packages/server/src/demo.js';

const CHUNK = 20_000;

/** The n-th id of a family: in order, as ids of version 7 are. */
const uuid = (family: number, n: string): string =>
  `CAST(CONCAT('0190${family.toString(16).padStart(4, '0')}-', LPAD(HEX(FLOOR((${n}) / 4294967296)), 4, '0'), '-7000-8000-', LPAD(HEX((${n}) % 281474976710656), 12, '0')) AS UUID)`;

export const one = async <T>(cx: Connection, sql: string, values: unknown[] = []): Promise<T> =>
  ((await cx.query<RowDataPacket[]>(sql, values))[0][0] ?? {}) as T;

/** Copies one sample with its load and its tests as often as it takes; half of them of one mix. */
export async function fill(cx: Connection, tests: number): Promise<void> {
  const sample = idFor('sample span-4-1');
  const template = await one<{ load_id: string; pour_id: string; project_id: string; n: number }>(
    cx,
    `SELECT l.id AS load_id, l.parent_id AS pour_id, s.project_id, (SELECT COUNT(*) FROM test WHERE item_id = s.id) AS n
     FROM item s JOIN item l ON l.id = s.parent_id WHERE s.id = ?`,
    [sample],
  );
  const samples = Math.ceil(tests / template.n);
  const mixes = (await cx.query<RowDataPacket[]>('SELECT id FROM mix ORDER BY code LIMIT 2'))[0].map((row) => String(row['id']));
  const mix = `IF(n.seq % 2 = 0, '${mixes[0]!}', '${mixes[1]!}')`;
  // The rows to copy stand in tables of their own: those that grow are not searched for them.
  const copies: Readonly<Record<string, string>> = {
    item: 'SELECT t.* FROM item t WHERE t.id IN (?)',
    test: 'SELECT ROW_NUMBER() OVER (ORDER BY t.started_at, t.id) AS k, t.* FROM test t WHERE t.item_id IN (?)',
    ...Object.fromEntries(
      Object.entries({
        entry: 'owner_id',
        evaluation: 'test_id',
        result: 'test_id',
        standing: 'test_id',
        stood_on: 'test_id',
        ledger: 'test_id',
      }).map(([table, id]) => [table, `SELECT x.k, t.* FROM copy_test x JOIN ${table} t ON t.${id} = x.id WHERE x.item_id IN (?)`]),
    ),
  };
  for (const [table, sql] of Object.entries(copies)) {
    await cx.query(`DROP TABLE IF EXISTS copy_${table}`);
    await cx.query(`CREATE TABLE copy_${table} AS ${sql}`, [[sample, template.load_id, template.pour_id]]);
  }
  const at = (column: string): string => `${column} - INTERVAL n.seq MINUTE`;
  const columns =
    'project_id, kind, parent_id, scope_id, number, code, subject_id, revision_id, person_id, made_at, name, day, at, facts, voided, children, samples, outs, worst';
  // A pour for every thousand loads; loads in their pours, samples in their loads.
  await cx.query(
    `INSERT INTO item (id, ${columns})
     SELECT ${uuid(1, 'n.seq')}, t.project_id, t.kind, NULL, t.project_id, 1000000 + n.seq, CONCAT('Pour ', n.seq), ${mix}, NULL, t.person_id,
       t.made_at, CONCAT('Pour ', n.seq), ${at('t.day')}, ${at('t.at')}, t.facts, FALSE, 1000, 1000, 0, NULL
     FROM seq_0_to_${Math.ceil(samples / 1000)} n JOIN copy_item t ON t.id = ?`,
    [template.pour_id],
  );
  for (let from = 1; from <= samples; from += CHUNK) {
    const n = `seq_${from}_to_${Math.min(samples, from + CHUNK - 1)} n`;
    const pour = uuid(1, 'FLOOR(n.seq / 1000)');
    await cx.query('START TRANSACTION');
    await cx.query(
      `INSERT INTO item (id, ${columns})
       SELECT ${uuid(2, 'n.seq')}, t.project_id, t.kind, ${pour}, ${pour}, 1000 + n.seq % 1000, t.code, ${mix}, t.revision_id, t.person_id,
         t.made_at, t.name, ${at('t.day')}, ${at('t.at')}, t.facts, FALSE, 1, 1, 0, t.worst FROM ${n} JOIN copy_item t ON t.id = ?`,
      [template.load_id],
    );
    await cx.query(
      `INSERT INTO item (id, ${columns})
       SELECT ${uuid(3, 'n.seq')}, t.project_id, t.kind, ${uuid(2, 'n.seq')}, t.project_id, 1000000 + n.seq, CONCAT('Q-', 1000000 + n.seq), ${mix},
         NULL, t.person_id, t.made_at, t.name, ${at('t.day')}, ${at('t.at')}, t.facts, FALSE, 0, 0, 0, t.worst FROM ${n} JOIN copy_item t ON t.id = ?`,
      [sample],
    );
    const test = uuid(4, 'n.seq * 16 + t.k');
    await cx.query(
      `INSERT INTO test (id, item_id, method, variant, variant_reason, unit_system, started_at, person_id, equipment_id, calibration_id, retest_of)
       SELECT ${test}, ${uuid(3, 'n.seq')}, t.method, t.variant, t.variant_reason, t.unit_system, ${at('t.started_at')}, t.person_id,
         t.equipment_id, t.calibration_id, NULL FROM ${n} JOIN copy_test t`,
    );
    await cx.query(
      `INSERT INTO test_kit (test_id, equipment_id, calibration_id, at)
       SELECT ${test}, t.equipment_id, t.calibration_id, ${at('t.started_at')} FROM ${n} JOIN copy_test t WHERE t.equipment_id IS NOT NULL`,
    );
    await cx.query(
      `INSERT INTO entry (owner_id, path, turn, id, value_text, unit, person_id, read_at, received_at, device, reason)
       SELECT ${test}, t.path, t.turn, UUID(), t.value_text, t.unit, t.person_id, ${at('t.read_at')}, ${at('t.received_at')}, t.device, t.reason
       FROM ${n} JOIN copy_entry t`,
    );
    await cx.query(
      `INSERT INTO evaluation (test_id, turn, core, validity, frozen, cause, cause_id, computed_at)
       SELECT ${test}, t.turn, t.core, t.validity, t.frozen, t.cause, t.cause_id, ${at('t.computed_at')}
       FROM ${n} JOIN copy_evaluation t`,
    );
    await cx.query(
      `INSERT INTO result (test_id, turn, result, state, unit, exact_text, reported_text, verdict, lower_text, upper_text, compared_text, limit_unit)
       SELECT ${test}, t.turn, t.result, t.state, t.unit, t.exact_text, t.reported_text, t.verdict, t.lower_text, t.upper_text, t.compared_text,
         t.limit_unit FROM ${n} JOIN copy_result t`,
    );
    await cx.query(
      `INSERT INTO ledger (test_id, project_id, item_id, subject_id, method, at, person_id, turn, main, state, marked)
       SELECT ${test}, t.project_id, ${uuid(3, 'n.seq')}, ${mix}, t.method, ${at('t.at')}, t.person_id, t.turn, t.main, t.state,
         t.marked FROM ${n} JOIN copy_ledger t`,
    );
    await cx.query(
      `INSERT INTO standing (item_id, test_id, result, subject_id, property, method, at, unit, reported_text, validity, state)
       SELECT ${uuid(3, 'n.seq')}, ${test}, t.result, ${mix}, t.property, t.method, ${at('t.at')}, t.unit, t.reported_text, t.validity, t.state
       FROM ${n} JOIN copy_standing t`,
    );
    await cx.query(
      `INSERT INTO stood_on (test_id, used_id)
       SELECT ${test}, IF(t.used_id = ?, ${uuid(3, 'n.seq')}, ${uuid(2, 'n.seq')}) FROM ${n} JOIN copy_stood_on t`,
      [sample],
    );
    await cx.query('COMMIT');
  }
  for (const table of Object.keys(copies)) await cx.query(`DROP TABLE copy_${table}`);
  await cx.query("UPDATE counter SET last = (SELECT COUNT(*) FROM item WHERE kind = 'pour') WHERE kind = 'pour'");
  for (const table of ['item', 'test', 'entry', 'evaluation', 'result', 'standing', 'stood_on', 'ledger'])
    await cx.query(`ANALYZE TABLE ${table}`);
}
