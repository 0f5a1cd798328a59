import { keep, newTest } from '@keen-mortar/contract';
import { firstRowId, methodById, METHODS, usualVariant, type AnyMethod, type Field, type Shape } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import { v7 as newId } from 'uuid';
import { fault, type ToldFault } from '../faults.js';
import { Refused } from '../problems.js';
import { itemCoded } from '../store/items.js';
import { parsed, present, quantity, type Around, type Line, type Thing } from './import-lines.js';
import { keepReadings, startTest } from './tests.js';

const same = (a: string, b: string): boolean => a.toLowerCase() === b.trim().toLowerCase();

const methodCalled = (name: string): AnyMethod | undefined => methodById(name) ?? METHODS.find((m) => same(m.title, name));

const refused = (line: number, head: string, message: string): Refused =>
  new Refused('invalid-input', message, [fault('unknown', `lines.${line}.${head}`, message)]);

const fieldCalled = (shape: Shape, name: string): [string, Field] | undefined =>
  Object.entries(shape).find(([id, f]) => same(id, name) || same(f.label, name));

/** Where a reading stands on record: `dry`; of a table by the number of its row: `sieves.0001.retained`. */
function placeOf(shape: Shape, name: string): { path: string; field: Field } | null {
  const plain = fieldCalled(shape, name);
  if (plain && plain[1].kind !== 'rows') return { path: plain[0], field: plain[1] };
  const [, table = '', row = '', column = ''] = /^(.*\S)\s+(\d{1,4})\s*,\s*(\S.*)$/.exec(name.trim()) ?? [];
  const rows = fieldCalled(shape, table);
  if (rows?.[1].kind !== 'rows' || Number(row) < 1) return null;
  const found = fieldCalled(rows[1].of as Shape, column);
  return found ? { path: `${rows[0]}.${firstRowId(Number(row) - 1)}.${found[0]}`, field: found[1] } : null;
}

/** A value as a reading keeps it. */
function valueOf(field: Field, text: string, zone: string): { text: string; unit: string | null } {
  if (field.kind === 'qty') return quantity(text);
  if (field.kind === 'pick') {
    const option = Object.entries(field.options).find(([id, label]) => same(id, text) || same(label, text));
    return { text: option?.[0] ?? text, unit: null };
  }
  const at = field.kind === 'instant' ? DateTime.fromSQL(text, { zone }).toUTC().toISO() : null;
  return { text: at ?? text, unit: null };
}

/** A test that was kept elsewhere: started and read as its lines say, and judged as if it had been keyed then. */
export function test(lines: readonly Line[], { project, by }: Around): Thing {
  const { of = '', method = '', variant = '', started = '' } = lines[0]!.cells;
  return {
    called: `${method} of ${of}, ${started}`,
    make: async (cx, act) => {
      const m = methodCalled(method);
      if (!m) throw refused(0, 'method', `There is no method “${method}”.`);
      const item = await itemCoded(cx, project.id, of);
      if (item === undefined) throw refused(0, 'of', `There is nothing with the code “${of}” on record.`);
      const at = DateTime.fromSQL(started, { zone: project.timezone });
      if (!at.isValid) throw refused(0, 'started', `“${started}” is no day and time, as 2026-08-31 09:20.`);
      const startedAt = at.toUTC().toISO();
      const readings = lines.map(({ cells }, i) => {
        const place = placeOf(m.fields as Shape, cells['reading'] ?? '');
        if (!place) throw refused(i, 'reading', `${m.title} has no reading “${cells['reading'] ?? ''}”.`);
        return {
          id: newId(),
          field: place.path,
          ...valueOf(place.field, cells['value'] ?? '', project.timezone),
          at: startedAt,
          ...present('reason', cells['reason']),
        };
      });
      const id = newId();
      try {
        const usual = variant === '' ? usualVariant(project.practice, m) : variant;
        const begun = { startedAt, equipmentId: null, retestOf: null, kitReason: 'the table that it was brought in with does not say' };
        await startTest(cx, act, item, parsed(newTest, { id, by, method: m.id, variant: usual, system: project.system, ...begun }));
        await keepReadings(cx, act, id, parsed(keep, { id: newId(), by, readings }));
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        throw new Refused(
          error.code,
          error.message,
          error.errors.map((e) => onLine(e, readings)),
        );
      }
    },
    heads: [
      [/lines\.\d+\.(\w+)/, '$1'],
      [/(variant|method)/, '$1'],
      [/startedAt/, 'started'],
      [/itemId/, 'of'],
      [/./, 'value'],
    ],
  };
}

/** A fault of a reading at the line that it came from. */
function onLine(e: ToldFault, readings: readonly { readonly field: string }[]): ToldFault {
  const [, sent, part] = /^readings\.(\d+)\.?(\w*)/.exec(e.path) ?? [];
  const line = sent === undefined ? readings.findIndex((r) => r.field === e.path) : Number(sent);
  const head =
    part === 'field' ? 'reading' : part === 'at' ? 'started' : part === 'reason' || e.code === 'needs-reason' ? 'reason' : 'value';
  return line < 0 ? e : { ...e, path: `lines.${line}.${head}` };
}
