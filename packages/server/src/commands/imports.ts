import type { ToldFault } from '../faults.js';
import {
  dayIn,
  importTable,
  MOST_LINES,
  newCalibration,
  newEquipment,
  newItem,
  newMix,
  newSpecification,
  type ImportAnswer,
  type ImportColumn,
  type ImportTable,
  type NewImport,
} from '@keen-mortar/contract';
import { KIT_VALUES, unitNamed, type KitKind } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import type { PoolConnection } from 'mysql2/promise';
import Papa from 'papaparse';
import { v7 as newId } from 'uuid';
import type { Act } from '../actor.js';
import { isDuplicate } from '../db.js';
import { Refused } from '../problems.js';
import { sourcesNamed } from '../store/items.js';
import { projectOf } from '../store/projects.js';
import { specificationsCalled } from '../store/specifications.js';
import { known, parsed, present, quantity, type Around, type Cells, type Line, type Thing } from './import-lines.js';
import { load } from './import-loads.js';
import { test } from './import-tests.js';
import { makeItem } from './items.js';
import { calibrate, makeEquipment } from './kit.js';
import { makeMix, makeSpecification } from './office.js';

/* Tables that a lab brings in: everything in them is made as if it had been keyed, or nothing is. */

/** More faults than these are not told: somebody mends them and looks again. */
const MOST_FAULTS = 50;
/** The heads stand in the first line. */
const FIRST = 2;

const MEND = 'Mend this line of the table, and bring it in again.';
const fault = (at: number, head: string, message: string, code = 'invalid', next = MEND): ToldFault => ({
  code,
  path: `line ${at}, ${head}`,
  message,
  next,
});

/** The lines of a table, by its heads; each fault with the line that it is in. */
function linesOf(body: NewImport): Line[] {
  const { columns } = importTable(body.what);
  const parsed = Papa.parse<Cells>(body.csv.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (head) => head.trim().toLowerCase(),
    transform: (cell) => cell.trim(),
  });
  const heads = parsed.meta.fields ?? [];
  const faults = [
    ...columns
      .filter((c) => c.needed && !heads.includes(c.head))
      .map((c) => fault(1, c.head, `There is no column “${c.head}”: ${c.says}.`, 'missing-column')),
    ...heads
      .filter((head) => head !== '' && !columns.some((c) => c.head === head))
      .map((head) => fault(1, head, `Nobody knows a column “${head}” here.`, 'unknown-column')),
    ...parsed.errors.filter((e) => e.code !== 'UndetectableDelimiter').map((e) => fault((e.row ?? 0) + FIRST, 'the line', `${e.message}.`)),
  ];
  if (faults.length > 0) throw new Refused('invalid-input', 'The table cannot be read as it is.', faults.slice(0, MOST_FAULTS));
  if (parsed.data.length === 0)
    throw new Refused('invalid-input', 'There is no line below the heads.', [fault(FIRST, 'the line', 'Nothing is here.')]);
  if (parsed.data.length > MOST_LINES)
    throw new Refused('too-large', `That is more than ${MOST_LINES} lines: bring them in by several files.`);
  return parsed.data.map((cells, i) => ({ at: i + FIRST, cells }));
}

/** Lines that are of one thing, in the order in which they came. */
function groups(lines: readonly Line[], by: readonly string[] | undefined): Line[][] {
  if (by === undefined) return lines.map((line) => [line]);
  const found = new Map<string, Line[]>();
  for (const line of lines) {
    const key = by.map((head) => line.cells[head] ?? '').join('\n');
    found.set(key, [...(found.get(key) ?? []), line]);
  }
  return [...found.values()];
}

function source([line]: readonly Line[], { project, by }: Around): Thing {
  const { name = '', pit = '', kind = '', nominal = '' } = line!.cells;
  const facts = { pit, kind, ...(nominal ? { nominal: quantity(nominal) } : {}) };
  return {
    called: name,
    make: (cx, act) =>
      makeItem(cx, act, parsed(newItem, { id: newId(), by, kind: 'source', projectId: project.id, parentId: null, name, facts })),
    heads: [
      [/pit/, 'pit'],
      [/kind/, 'kind'],
      [/nominal/, 'nominal'],
      [/./, 'name'],
    ],
  };
}

/** What is no number goes to its fault as it stands. */
const days = (text: string | undefined): object =>
  text === undefined || text === '' ? {} : { atDays: Number.isNaN(Number(text)) ? text : Number(text) };

function specification(lines: readonly Line[], { project, by }: Around): Thing {
  const first = lines[0]!.cells;
  const limits = lines.map(({ cells: c }) => ({
    id: newId(),
    property: c['property'] ?? '',
    unit: c['unit'] ? (unitNamed(c['unit']) ?? c['unit']) : '1',
    ...present('lower', c['lower']),
    ...present('upper', c['upper']),
    ...present('target', c['target']),
    ...present('minus', c['minus']),
    ...present('plus', c['plus']),
    ...days(c['at days']),
    source: c['where'] ?? '',
    ...present('onFail', c['on fail']),
  }));
  return {
    called: first['name'] ?? '',
    make: (cx, act) =>
      makeSpecification(
        cx,
        act,
        parsed(newSpecification, {
          id: newId(),
          by,
          projectId: project.id,
          name: first['name'],
          ...present('comparison', first['comparison']),
          ...present('school', first['school']),
          limits,
        }),
      ),
    heads: [
      [/limits\.\d+\.source/, 'where'],
      [/limits\.\d+\.onFail/, 'on fail'],
      [/limits\.\d+\.atDays/, 'at days'],
      [/school/, 'school'],
      [/limits\.\d+\.(property|unit|lower|upper|target|minus|plus)/, '$1'],
      [/limits/, 'lower'],
      [/comparison/, 'comparison'],
      [/./, 'name'],
    ],
  };
}

function mix(lines: readonly Line[], { project, by, sources, specifications }: Around): Thing {
  const first = lines[0]!.cells;
  const from = (act: Act): string => {
    const day = first['from'] || dayIn(project.timezone, act.now.toISOString());
    return DateTime.fromISO(day, { zone: project.timezone }).toUTC().toISO() ?? day;
  };
  const named = (first['must meet'] ?? '').split(';').map((n) => n.trim());
  return {
    called: `${first['code'] ?? ''} ${first['name'] ?? ''}`.trim(),
    make: (cx, act) =>
      makeMix(
        cx,
        act,
        parsed(newMix, {
          id: newId(),
          by,
          projectId: project.id,
          code: first['code'],
          name: first['name'],
          revision: {
            id: newId(),
            effectiveFrom: from(act),
            specificationIds: named.filter(Boolean).map((n) => known(specifications, n, 'specificationIds', 'specification')),
            largest: quantity(first['largest'] ?? ''),
            nominal: quantity(first['nominal'] ?? ''),
            air: first['air'] ?? '',
            ...present('correction', first['correction']),
            ...present('correctionOn', first['correction on']),
            ingredients: lines.map(({ cells: c }, i) => ({
              name: c['ingredient'] ?? '',
              role: c['role'] ?? '',
              mass: quantity(c['mass'] ?? ''),
              ...present('sg', c['gravity']),
              ...(c['source'] ? { sourceId: known(sources, c['source'], `ingredients.${i}.sourceId`, 'source') } : {}),
            })),
          },
        }),
      ),
    heads: [
      [/ingredients\.\d+\.name/, 'ingredient'],
      [/ingredients\.\d+\.sg/, 'gravity'],
      [/ingredients\.\d+\.sourceId/, 'source'],
      [/ingredients\.\d+\.(role|mass)/, '$1'],
      [/ingredients/, 'ingredient'],
      [/specificationIds/, 'must meet'],
      [/effectiveFrom/, 'from'],
      [/correctionOn/, 'correction on'],
      [/(largest|nominal|air|correction|code)/, '$1'],
      [/./, 'name'],
    ],
  };
}

/** What is refused of a part says which part it is of. */
async function within(part: string, make: () => Promise<unknown>): Promise<void> {
  try {
    await make();
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    throw new Refused(
      error.code,
      error.message,
      error.errors.map((e) => ({ ...e, path: `${part}${e.path}` })),
    );
  }
}

function instrument([line]: readonly Line[], { project, by }: Around): Thing {
  const { kind = '', name = '', nominal = '', calibrated = '', due = '', found = '' } = line!.cells;
  const about = KIT_VALUES[kind as KitKind] as (typeof KIT_VALUES)[KitKind] | undefined;
  // What has several of its own has them in one cell: 12; 38 mm.
  const value = (items: readonly string[] | undefined, text: string) =>
    text === ''
      ? []
      : text.split(';').flatMap((part, i) => (items?.[i] === undefined ? [] : [{ item: items[i], value: quantity(part.trim()) }]));
  return {
    called: name,
    make: async (cx, act) => {
      const id = newId();
      await makeEquipment(cx, act, parsed(newEquipment, { id, by, projectId: project.id, kind, name, values: value(about?.own, nominal) }));
      if (calibrated === '' && found === '' && due === '') return;
      const body = { id: newId(), by, on: calibrated, ...present('due', due), values: value(about?.calibrated, found) };
      await within('calibration.', () => calibrate(cx, act, id, parsed(newCalibration, body)));
    },
    heads: [
      [/calibration\.values/, 'found'],
      [/calibration\.due/, 'due'],
      [/calibration/, 'calibrated'],
      [/kind|item/, 'kind'],
      [/values/, 'nominal'],
      [/./, 'name'],
    ],
  };
}

const THINGS = { sources: source, specifications: specification, mixes: mix, kit: instrument, loads: load, tests: test } as const;

/** A fault of something that was made, at the line and in the column that it came from. */
function placed(error: unknown, lines: readonly Line[], { heads }: Thing, columns: ImportTable['columns']): ToldFault[] | null {
  if (isDuplicate(error)) return [fault(lines[0]!.at, heads.at(-1)![1], 'One with this name or code is there already.', 'already-exists')];
  if (!(error instanceof Refused) || error.status >= 500) return null;
  const errors = error.errors.length > 0 ? error.errors : [{ code: error.code, path: '', message: error.message, next: MEND }];
  const at = (e: ToldFault): number => Number(/(?:ingredients|limits|lines|materials)\.(\d+)/.exec(e.path)?.[1] ?? 0);
  return [...errors]
    .sort((a, b) => at(a) - at(b))
    .map((e) => {
      const row = at(e);
      const [pattern, head] = heads.find(([p]) => p.test(e.path)) ?? heads.at(-1)!;
      const own = head.startsWith('$') ? (pattern.exec(e.path)?.[1] ?? 'the line') : head;
      return fault(
        (lines[row] ?? lines[0]!).at,
        own,
        wordsOf(
          e,
          columns.find((c) => c.head === own),
        ),
        e.code,
        e.next,
      );
    });
}

/** What a column takes is said in its own words: nobody reads a list of a schema. */
const wordsOf = (e: ToldFault, column: ImportColumn | undefined): string =>
  column && /^(invalid_value|invalid_type|too_small|invalid_union)$/.test(e.code)
    ? `Nothing that is known here. It takes: ${column.says}.`
    : sentence(e.message);

const sentence = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}${/[.!?]$/.test(text) ? '' : '.'}`;

const byName = (all: readonly { readonly id: string; readonly name: string }[]): ReadonlyMap<string, string> =>
  new Map(all.map(({ id, name }) => [name.toLowerCase(), id]));

/** Makes everything of a table, or tells of each line what is wrong with it and makes nothing. */
export async function bringIn(cx: PoolConnection, act: Act, body: NewImport): Promise<ImportAnswer> {
  const project = await projectOf(cx, body.projectId);
  const lines = linesOf(body);
  const around: Around = {
    project,
    by: act.personId,
    sources: byName(await sourcesNamed(cx, project.id)),
    specifications: byName(await specificationsCalled(cx, project.id)),
  };
  const faults: ToldFault[] = [];
  const made: string[] = [];
  for (const group of groups(lines, importTable(body.what).by)) {
    const thing = THINGS[body.what](group, around);
    try {
      await cx.query('SAVEPOINT thing');
      await thing.make(cx, act);
      made.push(thing.called);
    } catch (error) {
      const found = placed(error, group, thing, importTable(body.what).columns);
      if (found === null) throw error;
      await cx.query('ROLLBACK TO SAVEPOINT thing');
      faults.push(...found);
    }
    if (faults.length >= MOST_FAULTS) break;
  }
  if (faults.length > 0)
    throw new Refused(
      'invalid-input',
      `${faults.length === 1 ? 'Something is' : `${faults.length} things are`} wrong in the table: nothing was brought in.`,
      faults.slice(0, MOST_FAULTS),
    );
  return { lines: lines.length, made, dry: body.dry };
}
