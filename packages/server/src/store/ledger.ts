import type { Item, LedgerRow, LedgerView, NewView, TestTurn } from '@keen-mortar/contract';
import { exact, factWords, ITEM_KIND_IDS, significant, type ItemKind, type UnitId, type VerdictState } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { change, insert, select, type Cx } from '../db.js';
import type { TestRecord } from './tests.js';

/** A test that was started has its line from then on. */
export const beginLedger = (cx: PoolConnection, item: Item, test: Omit<TestRecord, 'newest'>): Promise<number> =>
  insert(cx, 'ledger', {
    test_id: test.id,
    project_id: item.projectId,
    item_id: item.id,
    subject_id: item.subjectId,
    method: test.method,
    at: test.startedAt,
    person_id: test.by,
    turn: null,
    main: null,
    state: 'open',
    marked: false,
  });

export const updateLedger = (
  cx: PoolConnection,
  testId: string,
  now: { readonly turn: number; readonly main: string | null; readonly state: VerdictState; readonly marked: boolean },
): Promise<unknown> =>
  change(cx, 'UPDATE ledger SET turn = ?, main = ?, state = ?, marked = ? WHERE test_id = ?', [
    now.turn,
    now.main,
    now.state,
    now.marked,
    testId,
  ]);

/** Which lines are meant; `results` are those of a property, by the methods that find it. */
export interface Wanted {
  readonly projectId: string;
  readonly inItem?: string | undefined;
  readonly text?: string | undefined;
  readonly subjectId?: string | undefined;
  readonly methods?: readonly string[] | undefined;
  readonly results?: readonly { readonly method: string; readonly result: string }[] | undefined;
  readonly states?: readonly VerdictState[] | undefined;
  readonly marked?: boolean | undefined;
  readonly personId?: string | undefined;
  readonly equipmentId?: string | undefined;
  readonly from?: Date | undefined;
  readonly until?: Date | undefined;
}

/** What lies in something; people look for no more of them at once. */
const MOST_SEEDS = 200;

interface Sql {
  readonly sql: string;
  readonly values: readonly unknown[];
}

const escaped = (text: string): string => `${text.replace(/[\\%_]/g, '\\$&')}%`;

/** Items that tests are looked for in, and all that lies in them. */
function below({ projectId, inItem, text }: Wanted): Sql | null {
  if (inItem === undefined && text === undefined) return null;
  const seed =
    text === undefined
      ? { sql: 'SELECT id FROM item WHERE id = ? AND project_id = ?', values: [inItem, projectId] }
      : {
          // By code or by name, a walk down an index for each kind.
          sql: `SELECT id FROM (SELECT id FROM item WHERE project_id = ? AND kind IN (?) AND code LIKE ? UNION SELECT id FROM item WHERE project_id = ? AND kind IN (?) AND name LIKE ? LIMIT ${MOST_SEEDS}) seeds`,
          values: [projectId, ITEM_KIND_IDS, escaped(text), projectId, ITEM_KIND_IDS, escaped(text)],
        };
  const down = (name: string, from: Sql): Sql => ({
    sql: `${name} AS (${from.sql} UNION SELECT item.id FROM item JOIN ${name} ON item.parent_id = ${name}.id)`,
    values: from.values,
  });
  const one = down('down', seed);
  if (text === undefined || inItem === undefined) return one;
  const other = down('inside', { sql: 'SELECT id FROM item WHERE id = ? AND project_id = ?', values: [inItem, projectId] });
  return { sql: `${one.sql}, ${other.sql}`, values: [...one.values, ...other.values] };
}

/** The lines that are meant: what they are read from, and what holds of them. */
function meant(w: Wanted): { readonly head: Sql; readonly from: string; readonly where: Sql; readonly at: string } {
  const tree = below(w);
  const parts: Sql[] = [{ sql: 'l.project_id = ?', values: [w.projectId] }];
  const add = (sql: string, ...values: readonly unknown[]): void => void parts.push({ sql, values });
  let from = 'ledger l';
  // All that a test was made with: down the instrument’s own index.
  if (w.equipmentId !== undefined) {
    from = 'test_kit k JOIN ledger l ON l.test_id = k.test_id';
    add('k.equipment_id = ?', w.equipmentId);
  }
  if (tree)
    from =
      w.text !== undefined && w.inItem !== undefined
        ? `down JOIN inside ON inside.id = down.id JOIN ${from} ON l.item_id = down.id`
        : `down JOIN ${from} ON l.item_id = down.id`;
  if (w.subjectId !== undefined) add('l.subject_id = ?', w.subjectId);
  if (w.methods !== undefined) add('l.method IN (?)', w.methods);
  if (w.results !== undefined) {
    add('l.method IN (?)', [...new Set(w.results.map((r) => r.method))]);
    from += ` JOIN result r ON r.test_id = l.test_id AND r.turn = l.turn`;
    add(
      '(l.method, r.result) IN (?)',
      w.results.map((r) => [r.method, r.result]),
    );
  }
  if (w.states !== undefined) add(w.results === undefined ? 'l.state IN (?)' : "COALESCE(r.verdict, 'unjudged') IN (?)", w.states);
  if (w.marked === true) add('l.marked');
  if (w.personId !== undefined) add('l.person_id = ?', w.personId);
  const at = w.equipmentId === undefined ? 'l' : 'k';
  if (w.from !== undefined) add(`${at}.at >= ?`, w.from);
  if (w.until !== undefined) add(`${at}.at < ?`, w.until);
  return {
    head: tree ? { sql: `WITH RECURSIVE ${tree.sql} `, values: tree.values } : { sql: '', values: [] },
    from,
    where: { sql: parts.map((p) => p.sql).join(' AND '), values: parts.flatMap((p) => p.values) },
    at,
  };
}

/** Where a page goes on: after this line, in its order. */
export interface After {
  readonly key: string;
  readonly testId: string;
}

export interface Order {
  readonly sort: 'at' | 'value';
  readonly descending: boolean;
}

/** A test as its newest evaluation has it; what is found of its item together is put to it by whoever shows it. */
export type LedgerLine = Omit<LedgerRow, 'findings'>;

interface Row {
  test_id: string;
  item_id: string;
  kind: string;
  code: string;
  in_code: string | null;
  voided: number;
  method: string;
  variant: string;
  at: Date;
  person_id: string;
  state: VerdictState;
  marked: number;
  corrected: number | null;
  retest_of: string | null;
  result: string | null;
  result_state: string;
  unit: UnitId;
  reported_text: string | null;
  verdict: VerdictState | null;
  lower_text: string | null;
  upper_text: string | null;
  compared_text: string | null;
  limit_unit: UnitId | null;
  sort_key: string | number | Date;
}

const row = (r: Row): LedgerLine & { readonly key: string } => ({
  testId: r.test_id,
  itemId: r.item_id,
  itemKind: r.kind,
  code: r.code,
  inCode: r.in_code,
  voided: r.voided === 1,
  method: r.method,
  variant: r.variant,
  at: r.at.toISOString(),
  by: r.person_id,
  state: r.state,
  validity: r.state === 'void' ? 'void' : r.marked === 1 ? 'marked' : 'valid',
  corrected: r.corrected,
  retest: r.retest_of !== null,
  result:
    r.result === null
      ? null
      : {
          id: r.result,
          state: r.result_state,
          unit: r.unit,
          reported: r.reported_text,
          verdict: r.verdict ?? 'unjudged',
          lower: r.lower_text,
          upper: r.upper_text,
          compared: r.compared_text,
          limitUnit: r.limit_unit,
        },
  key: r.sort_key instanceof Date ? r.sort_key.toISOString() : String(r.sort_key),
});

/** A number of a result to put it in order with; what it is exactly stands in the row. */
const VALUE = 'CAST(COALESCE(r.reported_text, 0) AS DECIMAL(40, 12))';

/** So many lines in their order, from after one on. The lines are chosen first; what is shown of them is looked up then. */
export async function ledgerLines(
  cx: Cx,
  w: Wanted,
  { sort, descending }: Order,
  after: After | null,
  most: number,
): Promise<(LedgerLine & { readonly key: string })[]> {
  const { head, from, where, at } = meant(w);
  const [by, than] = [sort === 'at' ? `${at}.at` : VALUE, descending ? '<' : '>'];
  const id = `${at}.test_id`;
  const beyond: Sql =
    after === null
      ? { sql: '', values: [] }
      : {
          sql: ` AND ${by} ${than}= ? AND (${by} ${than} ? OR ${id} ${than} ?)`,
          values: [...(sort === 'at' ? [new Date(after.key), new Date(after.key)] : [after.key, after.key]), after.testId],
        };
  const direction = descending ? 'DESC' : 'ASC';
  const shown = w.results === undefined ? 'l.main' : 'r.result';
  const rows = await select<Row>(
    cx,
    `${head.sql}SELECT x.*, i.kind, i.code, p.code AS in_code, (i.voided OR COALESCE(p.voided, FALSE) OR COALESCE(q.voided, FALSE)) AS voided,
       IF(x.turn IS NULL, NULL, (SELECT COUNT(*) - 1 FROM evaluation e WHERE e.test_id = x.test_id AND e.cause IS NULL)) AS corrected,
       t.variant, t.retest_of, f.result, f.state AS result_state, f.unit, f.reported_text, f.verdict, f.lower_text, f.upper_text, f.compared_text, f.limit_unit
     FROM (
       SELECT l.*, ${shown} AS chosen, ${by} AS sort_key FROM ${from} WHERE ${where.sql}${beyond.sql}
       ORDER BY ${by} ${direction}, ${id} ${direction} LIMIT ?
     ) x JOIN item i ON i.id = x.item_id LEFT JOIN item p ON p.id = i.parent_id LEFT JOIN item q ON q.id = p.parent_id
     JOIN test t ON t.id = x.test_id
     LEFT JOIN result f ON f.test_id = x.test_id AND f.turn = x.turn AND f.result = x.chosen
     ORDER BY x.sort_key ${direction}, x.test_id ${direction}`,
    [...head.values, ...where.values, ...beyond.values, most],
  );
  return rows.map(row);
}

/** Of the newest so many lines: how many of each week stand where. */
export async function ledgerCounts(
  cx: Cx,
  w: Wanted,
  most: number,
): Promise<{ readonly week: string; readonly state: VerdictState; readonly marked: boolean; readonly count: number }[]> {
  const { head, from, where, at } = meant(w);
  const state = w.results === undefined ? 'l.state' : "COALESCE(r.verdict, 'unjudged')";
  const rows = await select<{ week: string; state: VerdictState; marked: number; n: number }>(
    cx,
    `${head.sql}SELECT DATE_FORMAT(x.at - INTERVAL WEEKDAY(x.at) DAY, '%Y-%m-%d') AS week, x.state, x.marked, COUNT(*) AS n
     FROM (SELECT l.at, ${state} AS state, l.marked FROM ${from} WHERE ${where.sql} ORDER BY ${at}.at DESC, ${at}.test_id DESC LIMIT ?) x
     GROUP BY week, x.state, x.marked ORDER BY week`,
    [...head.values, ...where.values, most],
  );
  return rows.map((r) => ({ week: r.week, state: r.state, marked: r.marked === 1, count: Number(r.n) }));
}

/** A result of the newest evaluation of a test, with the limit that decided. */
export interface StoredResult {
  readonly testId: string;
  readonly result: string;
  readonly state: string;
  readonly unit: UnitId;
  readonly reported: string | null;
  /** To so many digits as people need, where nothing is reported. */
  readonly figure: string | null;
  readonly verdict: VerdictState | null;
  readonly lower: string | null;
  readonly upper: string | null;
  readonly compared: string | null;
  readonly limitUnit: UnitId | null;
}

export async function resultsOfTests(cx: Cx, testIds: readonly string[]): Promise<StoredResult[]> {
  if (testIds.length === 0) return [];
  const rows = await select<{
    test_id: string;
    result: string;
    state: string;
    unit: UnitId;
    exact_text: string | null;
    reported_text: string | null;
    verdict: VerdictState | null;
    lower_text: string | null;
    upper_text: string | null;
    compared_text: string | null;
    limit_unit: UnitId | null;
  }>(
    cx,
    `SELECT r.test_id, r.result, r.state, r.unit, r.exact_text, r.reported_text, r.verdict, r.lower_text, r.upper_text, r.compared_text, r.limit_unit
     FROM ledger l JOIN result r ON r.test_id = l.test_id AND r.turn = l.turn WHERE l.test_id IN (?)`,
    [testIds],
  );
  return rows.map((r) => ({
    testId: r.test_id,
    result: r.result,
    state: r.state,
    unit: r.unit,
    reported: r.reported_text,
    figure: r.exact_text === null ? null : significant(exact(r.exact_text), 12),
    verdict: r.verdict,
    lower: r.lower_text,
    upper: r.upper_text,
    compared: r.compared_text,
    limitUnit: r.limit_unit,
  }));
}

interface Moved {
  owner_id: string;
  kind: ItemKind;
  path: string;
  value_text: string | null;
  unit: UnitId | null;
  person_id: string;
  received_at: Date;
}

/** What was written of the items that a test stands on at the moments at which it was worked out again for that. */
const movedFor = async (cx: Cx, testId: string, moments: readonly Date[]): Promise<Moved[]> =>
  moments.length === 0
    ? []
    : select<Moved>(
        cx,
        `SELECT x.owner_id, i.kind, x.path, x.value_text, x.unit, x.person_id, x.received_at
         FROM stood_on s JOIN item i ON i.id = s.used_id JOIN entry x ON x.owner_id = i.id
         WHERE s.test_id = ? AND x.received_at IN (?) ORDER BY x.owner_id, x.turn, x.path`,
        [testId, moments],
      );

const because = (moved: readonly Moved[], zone: string): TestTurn['because'] =>
  [...new Set(moved.map((m) => m.owner_id))].flatMap((owner) => {
    const own = moved.filter((m) => m.owner_id === owner);
    return factWords(
      own[0]!.kind,
      own.map((m) => ({ field: m.path, text: m.value_text, unit: m.unit })),
      zone,
    ).map((says) => ({ says, by: own[0]!.person_id }));
  });

/** Every time that a test was worked out, with what came of it, and what moved it. */
export async function turnsOf(cx: Cx, testId: string, zone: string): Promise<TestTurn[]> {
  const rows = await select<{
    turn: number;
    computed_at: Date;
    cause: string | null;
    validity: string;
    result: string;
    state: string;
    unit: UnitId;
    reported_text: string | null;
    verdict: VerdictState | null;
  }>(
    cx,
    `SELECT e.turn, e.computed_at, e.cause, e.validity, r.result, r.state, r.unit, r.reported_text, r.verdict
     FROM evaluation e JOIN result r ON r.test_id = e.test_id AND r.turn = e.turn WHERE e.test_id = ? ORDER BY e.turn`,
    [testId],
  );
  const moved = await movedFor(
    cx,
    testId,
    rows.flatMap((r) => (r.cause === 'facts' ? [r.computed_at] : [])),
  );
  return [...new Set(rows.map((r) => r.turn))].map((turn) => {
    const own = rows.filter((r) => r.turn === turn);
    const { computed_at: at, cause, validity } = own[0]!;
    return {
      turn,
      at: at.toISOString(),
      cause,
      because: because(
        moved.filter((m) => m.received_at.getTime() === at.getTime()),
        zone,
      ),
      validity,
      results: own.map((r) => ({ id: r.result, state: r.state, unit: r.unit, reported: r.reported_text, verdict: r.verdict })),
    };
  });
}

export async function viewsOf(cx: Cx, projectId: string, personId: string): Promise<LedgerView[]> {
  const rows = await select<{ id: string; name: string; query: string; columns_json: string }>(
    cx,
    'SELECT id, name, query, columns_json FROM ledger_view WHERE project_id = ? AND person_id = ? ORDER BY name LIMIT 100',
    [projectId, personId],
  );
  return rows.map(({ id, name, query, columns_json: columns }) => ({
    id,
    name,
    query: JSON.parse(query) as LedgerView['query'],
    columns: JSON.parse(columns) as string[],
  }));
}

export const insertView = (cx: PoolConnection, body: NewView, at: Date): Promise<number> =>
  insert(cx, 'ledger_view', {
    id: body.id,
    project_id: body.projectId,
    person_id: body.by,
    name: body.name,
    query: JSON.stringify(body.query),
    columns_json: JSON.stringify(body.columns),
    made_at: at,
  });

/** Only one’s own. */
export const removeView = (cx: PoolConnection, id: string, personId: string): Promise<unknown> =>
  change(cx, 'DELETE FROM ledger_view WHERE id = ? AND person_id = ?', [id, personId]);
