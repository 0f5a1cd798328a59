import { createHash } from 'node:crypto';
import type { RecordTaken } from '@keen-mortar/contract';
import type { Pool, PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import { isAway, isDuplicate, isFull, select } from '../db.js';
import { fault } from '../faults.js';
import { Refused } from '../problems.js';
import { endLine, head, isRow, tableLine, type Head, type Row } from './format.js';
import { columnsOf, RECORD, type Column, type RecordTable } from './tables.js';

/** So many rows, or so much text, go into one statement. */
const ROWS_AT_ONCE = 1000;
const TEXT_AT_ONCE = 2 * 1024 * 1024;
/** Of a text; what a test of two thousand readings was worked out from is a quarter of it. Whatever is looked at later is bounded by it. */
const LONGEST_CELL = 1_000_000;
/** What the whole of it may take in the database, ms a statement. */
const LONGEST = 120_000;

/** People and what they may do are the installation’s, not one project’s. */
const OF_ALL: ReadonlySet<string> = new Set(['person', 'certificate']);

const tableNamed = (name: string): RecordTable | undefined => RECORD.find((t) => t.name === name);

interface Into {
  readonly table: RecordTable;
  readonly columns: readonly Column[];
}

const broken = (line: number, message: string): Refused =>
  new Refused('invalid-input', 'This is no record that can be brought in.', [fault('broken', `line ${line}`, message)]);

const strayed = (message: string): Refused => new Refused('invalid-input', message, [fault('broken', 'file', message)]);

function read(line: number, text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw broken(line, 'The line is cut off, or was changed.');
  }
}

function parsed<T>(schema: z.ZodType<T>, line: number, text: string): T {
  const found = schema.safeParse(read(line, text));
  if (!found.success) throw broken(line, 'The line is not as a record’s is.');
  return found.data;
}

/** Takes a record’s lines up, one after the other, into the tables of a transaction. */
class Taking {
  private readonly hash = createHash('sha256');
  private readonly counts: Record<string, number> = {};
  private begun: Head | null = null;
  private into: Into | null = null;
  private ended = false;
  private line = 0;
  private rows = 0;
  private batch: { readonly line: number; readonly row: Row }[] = [];
  private text = 0;

  constructor(private readonly cx: PoolConnection) {}

  async take(text: string): Promise<void> {
    this.line += 1;
    if (this.ended) throw broken(this.line, 'Something comes after its end.');
    if (this.begun === null) await this.begin(text);
    else if (text.startsWith('[')) await this.row(text);
    else if (text.startsWith('{"table"')) await this.table(text);
    else return this.end(text);
    this.hash.update(`${text}\n`);
  }

  private async begin(text: string): Promise<void> {
    this.begun = parsed(head, this.line, text);
    const there = await select<{ n: number }>(this.cx, 'SELECT COUNT(*) AS n FROM project WHERE id = ? OR code = ?', [
      this.begun.project.id,
      this.begun.project.code,
    ]);
    if (Number(there[0]!.n) > 0)
      throw new Refused(
        'already-exists',
        `${this.begun.project.name} (${this.begun.project.code}) is here already: a record is brought in once.`,
      );
  }

  private async table(text: string): Promise<void> {
    await this.flush();
    const { table: name, columns } = parsed(tableLine, this.line, text);
    const table = tableNamed(name);
    if (!table) throw broken(this.line, `There is no ${name} in a record.`);
    const own = await columnsOf(this.cx, table);
    if (own.map((c) => c.name).join() !== columns.join())
      throw broken(this.line, 'It was given by another version of this program: bring both to the same one first.');
    this.into = { table, columns: own };
  }

  private async row(text: string): Promise<void> {
    if (!this.into) throw broken(this.line, 'A row before its table was named.');
    const row = read(this.line, text);
    if (!isRow(row)) throw broken(this.line, 'The line is not as a record’s is.');
    const { columns } = this.into;
    if (row.some((cell, i) => cell !== null && columns[i]?.bytes === false && cell.length > LONGEST_CELL))
      throw broken(this.line, 'It holds a text that is longer than any of a record is.');
    if (row.length !== this.into.columns.length) throw broken(this.line, `${row.length} values where ${this.into.columns.length} belong.`);
    this.batch.push({ line: this.line, row });
    this.text += text.length;
    if (this.batch.length >= ROWS_AT_ONCE || this.text >= TEXT_AT_ONCE) await this.flush();
  }

  private async flush(): Promise<void> {
    const { batch, into } = this;
    if (!into || batch.length === 0) return;
    [this.batch, this.text] = [[], 0];
    const { name } = into.table;
    this.rows += batch.length;
    this.counts[name] = (this.counts[name] ?? 0) + batch.length;
    const wanted = OF_ALL.has(name) ? await this.newOf(name, batch, into.columns) : batch;
    if (wanted.length === 0) return;
    try {
      await this.insert(
        into,
        wanted.map((b) => b.row),
      );
    } catch (error) {
      if (isAway(error) || isFull(error)) throw error;
      await this.findFault(into, wanted);
      throw error;
    }
  }

  /** Who is here already stays as they are, with what they may do. */
  private async newOf<B extends { readonly row: Row }>(
    name: string,
    batch: readonly B[],
    columns: readonly Column[],
  ): Promise<readonly B[]> {
    const at = columns.findIndex((c) => c.name === 'id');
    const there = await select<{ id: string }>(this.cx, `SELECT id FROM ${name} WHERE id IN (?)`, [batch.map((b) => b.row[at])]);
    const known = new Set(there.map((p) => p.id));
    return batch.filter((b) => !known.has(b.row[at] ?? ''));
  }

  private async insert({ table, columns }: Into, rows: readonly Row[]): Promise<void> {
    const values = rows.map((row) => row.map((cell, i) => (cell !== null && columns[i]!.bytes ? Buffer.from(cell, 'base64') : cell)));
    await this.cx.query({ sql: `INSERT INTO ${table.name} (${columns.map((c) => c.name).join(', ')}) VALUES ?`, timeout: LONGEST }, [
      values,
    ]);
  }

  /** Which of some rows the table does not take, one after the other. */
  private async findFault(into: Into, batch: readonly { readonly line: number; readonly row: Row }[]): Promise<void> {
    for (const { line, row } of batch)
      try {
        await this.insert(into, [row]);
      } catch (error) {
        throw broken(line, isDuplicate(error) ? 'This is here already, or twice in the file.' : 'It holds a value that cannot be there.');
      }
  }

  private async end(text: string): Promise<void> {
    const { rows, sha256 } = parsed(endLine, this.line, text);
    await this.flush();
    if (rows !== this.rows || sha256 !== this.hash.digest('hex'))
      throw broken(this.line, 'The file was changed after it was given, or a part of it is missing.');
    this.ended = true;
  }

  async done(): Promise<Omit<RecordTaken, 'dry'>> {
    if (!this.ended || !this.begun) throw broken(this.line + 1, 'The file ends too early.');
    await this.allOfIt(this.begun.project.id);
    await this.allThere(this.begun.project.id);
    return { project: this.begun.project, rows: this.rows, tables: this.counts };
  }

  /** Every row that came hangs on the project that the file names: nothing slips into another one. */
  private async allOfIt(projectId: string): Promise<void> {
    for (const { name, from } of RECORD) {
      if (OF_ALL.has(name)) continue;
      let found = 0;
      for (const one of from) found += await this.count(`SELECT COUNT(*) AS n FROM ${one}`, [projectId]);
      if (found !== (this.counts[name] ?? 0)) throw strayed(`Some of ${name} belongs to no part of this record.`);
    }
  }

  /**
   * What any row names is there, and of this record too: of what is of a project nothing is taken from another. The tables do
   * not look themselves while what is named may still come.
   */
  private async allThere(projectId: string): Promise<void> {
    for (const { own, columns, parent, parents } of await this.references()) {
      const [child, other] = [tableNamed(own), tableNamed(parent)];
      if (!child || !other || own === 'person') continue;
      const on = columns.map((c, i) => `y.${parents[i]!} = x.${c}`).join(' AND ');
      // People are the installation's; all else is looked for where this project's rows are.
      const there = parent === 'person' ? [`person y WHERE ${on}`] : other.from.map((from) => `${from.replace(/\bx\b/g, 'y')} AND ${on}`);
      for (const from of child.from) {
        const lost = await this.count(
          `SELECT COUNT(*) AS n FROM ${from} AND x.${columns[0]!} IS NOT NULL${there.map((t) => ` AND NOT EXISTS (SELECT 1 FROM ${t})`).join('')}`,
          [projectId, ...(parent === 'person' ? [] : there.map(() => projectId))],
        );
        if (lost > 0) throw strayed(`Some of ${own} names a row of ${parent} that is not there.`);
      }
    }
  }

  /** Which columns of which table name which rows of another, as the tables declare it. */
  private async references(): Promise<{ own: string; columns: string[]; parent: string; parents: string[] }[]> {
    const keys = await select<{ own: string; columns: string; parents: string; parent: string }>(
      this.cx,
      `SELECT table_name AS own, GROUP_CONCAT(column_name ORDER BY ordinal_position) AS columns,
         GROUP_CONCAT(referenced_column_name ORDER BY ordinal_position) AS parents, referenced_table_name AS parent
       FROM information_schema.key_column_usage WHERE table_schema = DATABASE() AND referenced_table_name IS NOT NULL
       GROUP BY table_name, constraint_name, referenced_table_name`,
    );
    return keys.map((k) => ({ ...k, columns: k.columns.split(','), parents: k.parents.split(',') }));
  }

  private async count(sql: string, values: readonly unknown[]): Promise<number> {
    return Number((await select<{ n: number }>(this.cx, sql, values, LONGEST))[0]!.n);
  }
}

/**
 * Brings a record in as a whole, or not at all.
 * @param dry everything is done, and taken back
 * @throws Refused with the line that cannot be
 */
export async function takeRecord(pool: Pool, lines: AsyncIterable<string>, dry: boolean): Promise<RecordTaken> {
  const cx = await pool.getConnection();
  try {
    await cx.query('SET SESSION foreign_key_checks = 0');
    await cx.query('START TRANSACTION');
    const taking = new Taking(cx);
    for await (const line of lines) if (line !== '') await taking.take(line);
    const taken = await taking.done();
    await cx.query({ sql: dry ? 'ROLLBACK' : 'COMMIT', timeout: LONGEST });
    return { ...taken, dry };
  } finally {
    // It looks at nothing that is named elsewhere: nobody else may have it. What was not committed is taken back with it.
    cx.destroy();
  }
}
