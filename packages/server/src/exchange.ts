import { PassThrough, Readable, type Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import ExcelJs from 'exceljs';
import type { MixSeries } from '@keen-mortar/contract';
import { NOT_COUNTING } from '@keen-mortar/core';
import Papa from 'papaparse';
import { cellsOf, HEADS, type Exported, type Naming } from './queries/export.js';

export const FORMATS = {
  csv: 'text/csv; charset=utf-8',
  json: 'application/json; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
} as const;
export type Format = keyof typeof FORMATS;

/** What a spreadsheet would work out; a figure with its sign it may. */
const FORMULA = /^[=@\t\r]|^[+-](?!\d+(\.\d+)?$)/;

type Pages = AsyncIterable<readonly Exported[]>;

/** RFC 4180; what a spreadsheet would take for a formula it takes for text. */
async function* csv(pages: Pages, naming: Naming): AsyncGenerator<string> {
  yield `${Papa.unparse([HEADS as unknown as string[]])}\r\n`;
  for await (const page of pages) {
    const rows = page.flatMap((one) => cellsOf(one, naming)).map((cells) => HEADS.map((head) => cells[head]));
    if (rows.length > 0) yield `${Papa.unparse(rows, { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`;
  }
}

/** The strength tests of a mix as a table: what it is of, what came of it, and what it was made with. */
export function seriesCsv({ tests, traits }: MixSeries): string {
  const labels = new Map(traits.map((t) => [t.id, t.label]));
  const rows = tests.map((t) => [
    t.code,
    t.castAt,
    t.strength.text,
    t.strength.unit,
    t.companions.map((c) => c.text).join(' '),
    t.range ?? '',
    t.notFor === null ? '' : NOT_COUNTING[t.notFor],
    t.traits.map((id) => labels.get(id) ?? '').join('; '),
  ]);
  const heads = ['set', 'cast', 'strength', 'unit', 'companions', 'range, %', 'not for acceptance', 'made with'];
  return `${Papa.unparse([heads, ...rows], { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`;
}

/** One list; a test with its results and its readings each. */
async function* json(pages: Pages): AsyncGenerator<string> {
  let first = true;
  yield '[';
  for await (const page of pages) {
    for (const { line, results, readings } of page) {
      yield `${first ? '\n' : ',\n'}${JSON.stringify({ ...line, results, readings })}`;
      first = false;
    }
  }
  yield '\n]\n';
}

/** Until what was written has gone out, or nobody takes it any more. */
async function drained(to: Writable): Promise<void> {
  if (!to.writableNeedDrain || to.destroyed) return;
  await new Promise<void>((resolve) => {
    const done = (): void => {
      to.off('drain', done).off('close', done);
      resolve();
    };
    to.on('drain', done).on('close', done);
  });
}

/** A sheet whose figures are figures, with the heads standing still. */
async function xlsx(pages: Pages, naming: Naming, to: Writable): Promise<void> {
  const book = new ExcelJs.stream.xlsx.WorkbookWriter({ stream: to, useStyles: true });
  const sheet = book.addWorksheet('Tests', { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.columns = HEADS.map((head) => ({ header: head, key: head, width: head === 'test' || head === 'result' ? 30 : 14 }));
  for await (const page of pages) {
    for (const cells of page.flatMap((one) => cellsOf(one, naming))) {
      const figure = (text: string): string | number => (/^-?\d+(\.\d+)?$/.test(text) ? Number(text) : text);
      sheet.addRow({ ...cells, value: figure(cells.value), lowest: figure(cells.lowest), highest: figure(cells.highest) }).commit();
    }
    await drained(to);
    if (to.destroyed) return;
  }
  sheet.commit();
  // A book that nobody takes any more is never done.
  await Promise.race([book.commit(), new Promise((resolve) => to.once('close', resolve))]);
}

/** Sends the tests of some pages in a format, as they come; whoever hangs up ends it. */
export async function send(format: Format, pages: Pages, naming: Naming, to: Writable): Promise<void> {
  try {
    await written(format, pages, naming, to);
  } catch (error) {
    // Nobody is there any more to be told.
    if ((error as { code?: unknown }).code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
  }
}

async function written(format: Format, pages: Pages, naming: Naming, to: Writable): Promise<void> {
  if (format !== 'xlsx') return pipeline(Readable.from(format === 'csv' ? csv(pages, naming) : json(pages)), to);
  const through = new PassThrough();
  const filled = xlsx(pages, naming, through).catch((error: unknown) => void through.destroy(error as Error));
  // Both from the start: whoever hangs up while the book is being written is heard at once.
  await Promise.all([pipeline(through, to), filled]);
}
