import {
  dimensionOf,
  unitNamed,
  type AnyInputs,
  type Dimension,
  type Field,
  type Shape,
  type System,
  type UnitId,
} from '@keen-mortar/core';
import Papa from 'papaparse';

/** More rows than a form can usefully show; longer series go to the worker. */
export const MOST_ROWS = 2000;

/** A column of numbers from a spreadsheet of another country: its comma parts no cells. */
const DECIMAL_COMMA = /^[-−]?\d+,(\d{1,2}|\d{4,})$/;

/** Lines of a text, without taking it apart. */
export function linesIn(text: string): number {
  let count = 1;
  for (let at = text.indexOf('\n'); at >= 0 && at < text.length - 1; at = text.indexOf('\n', at + 1)) count++;
  return count;
}

/** Cells of text copied from a spreadsheet, a CSV file or a column of numbers. */
export function cellsOf(text: string): string[][] {
  const lines = text.trim().split(/\r?\n/);
  if (lines.every((line) => DECIMAL_COMMA.test(line.trim()))) return lines.map((line) => [line.trim()]);
  const { data } = Papa.parse<string[]>(text.trim(), {
    skipEmptyLines: 'greedy',
    ...(text.includes('\t') ? { delimiter: '\t' } : { delimitersToGuess: [';', ',', '|'] }),
  });
  return data.map((row) => row.map((cell) => cell.trim()));
}

const holdsNumber = (cell: string): boolean => /\d/.test(cell);

/** A first line without any number in it is the heads of the columns. */
const headOf = (cells: readonly (readonly string[])[]): readonly string[] | null => {
  const first = cells[0];
  return first &&
    cells.length > 1 &&
    first.some((cell) => cell !== '') &&
    !first.some((cell) => holdsNumber(cell.replace(/\(.*\)|\[.*\]/, '')))
    ? first
    : null;
};

const plain = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9%]+/g, ' ')
    .trim();

/** A unit that a head names in brackets or at its end: `Retained (g)`, `mass, kg`. */
function unitIn(head: string, dimension: Dimension): UnitId | null {
  const named = /[([]([^)\]]+)[)\]]/.exec(head)?.[1] ?? head.split(/[\s,]+/).at(-1) ?? '';
  const found = unitNamed(named, dimension);
  return found !== null && dimensionOf(found) === dimension ? found : null;
}

/** Which column belongs to which field: by its head where it has one, else in order from `start` on. */
function columnsFor(
  fields: readonly (readonly [string, Field])[],
  head: readonly string[] | null,
  width: number,
  start: number,
): (number | null)[] {
  const byOrder = fields.map((_f, i) => (i >= start && i - start < width ? i - start : null));
  if (!head) return byOrder;
  const byName = fields.map(([id, field]) => {
    const at = head.findIndex((h) => {
      const words = plain(h.replace(/\(.*\)|\[.*\]/, ''));
      return words !== '' && (words === plain(id) || plain(field.label).startsWith(words) || words.startsWith(plain(field.label)));
    });
    return at < 0 ? null : at;
  });
  return byName.some((at) => at !== null) ? byName : byOrder;
}

function valueOf(field: Field, cell: string, unit: UnitId): unknown {
  if (cell === '') return null;
  if (field.kind === 'qty') {
    // A number with its unit, such as `12.5 kg`, is read by the core; so is a decimal comma.
    return { text: cell, unit };
  }
  if (field.kind === 'pick') {
    const options = Object.entries(field.options as Record<string, string>);
    return options.find(([id, label]) => plain(id) === plain(cell) || plain(label) === plain(cell))?.[0] ?? cell;
  }
  return cell;
}

/** Rows of a table that was pasted; `start`: the column of the cell in which it was pasted. */
export function rowsFrom(text: string, of: Shape, system: System, units: Readonly<Record<string, UnitId>> = {}, start = 0): AnyInputs[] {
  const fields = Object.entries(of);
  const cells = cellsOf(text);
  const head = headOf(cells);
  const columns = columnsFor(fields, head, cells[0]?.length ?? 0, start);
  return cells.slice(head ? 1 : 0).map((row) => {
    const entries = fields.flatMap(([id, field], i): [string, unknown][] => {
      const at = columns[i] ?? null;
      const cell = at === null ? '' : (row[at] ?? '');
      if (at === null) return [];
      // An empty cell empties what stood there: an old reading must not stay among new ones.
      if (cell === '') return [[id, null]];
      const named = field.kind === 'qty' && head ? unitIn(head[at] ?? '', field.dimension) : null;
      return [[id, valueOf(field, cell, field.kind === 'qty' ? (named ?? units[id] ?? field.units[system]) : '1')]];
    });
    return Object.fromEntries(entries) as AnyInputs;
  });
}

/** Lines of a grid that was pasted: every cell is one reading, empty ones stay empty. */
export function gridFrom(text: string, inner: string, leaf: readonly [string, Field], unit: UnitId): AnyInputs[] {
  const [id, field] = leaf;
  return cellsOf(text).map(
    (row) =>
      ({
        [inner]: row.map((cell) => (cell === '' || /^[-–—]$/.test(cell) ? {} : { [id]: valueOf(field, cell, unit) })),
      }) as unknown as AnyInputs,
  );
}
