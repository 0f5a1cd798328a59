import { decimal, exact, type Exact } from '../numbers/exact.js';
import { parameterWords } from '../pages/parameters.js';
import type { Code, Params } from '../problems.js';
import { isUnit } from '../units/units.js';
import type { AnyMethod, Parameters, Variant } from './definition.js';
import type { How } from './evaluate.js';
import type { Remark } from './running.js';

/** What a figure of a variant’s parameters is, and so what may stand in its place. */
export type FigureKind =
  /** What a result is rounded to: 1, 2, 2.5 or 5, or ten, a hundred … times these, or a part. */
  | 'increment'
  /** So many significant figures, 1 to 9. */
  | 'significant'
  /** A whole number: of readings, of strokes. */
  | 'count'
  | 'decimal';

/** One figure of a variant’s parameters that a lab may have otherwise. */
export interface OwnFigure {
  /** Where it stands in the parameters: `increments|mm`, `factors|#1|ratio`. */
  readonly path: string;
  readonly words: string;
  readonly unit: string;
  readonly kind: FigureKind;
  /** As it is printed. */
  readonly text: string;
  /** Of a table: what that is, and where in it. */
  readonly cell: { readonly table: string; readonly row: number; readonly column: string } | null;
}

/** A lab’s own figures of a variant, by their path. */
export type OwnFigures = Readonly<Record<string, string>>;

type Path = readonly string[];

const SIGNIFICANT = /^~([1-9])$/;
const DECIMAL = /^-?\d+(\.\d+)?$/;
/** A lab’s figure is as short as those in print. */
const LONGEST = 20;
/** A lab’s own figure is of the size of the one in print: further off it is a slip. */
const MOST_TIMES = exact('10');
const INCREMENTS: ReadonlySet<string> = new Set(['1', '2', '25', '5']);

/** Rows of a table by their number, so that none looks like a unit: the plain number is one. */
const rowKey = (i: number): string => `#${i + 1}`;

const entriesOf = (value: unknown): [string, unknown][] => {
  if (Array.isArray(value)) return value.map((inner, i): [string, unknown] => [rowKey(i), inner]);
  return typeof value === 'object' && value !== null ? Object.entries(value as Record<string, unknown>) : [];
};

const rounds = (path: Path): boolean => isUnit(path.at(-1)!) || path.some((key) => /(^s|S)tep$/.test(key));

function kindOf(path: Path, value: unknown): FigureKind | null {
  if (typeof value === 'number') return Number.isInteger(value) ? 'count' : 'decimal';
  if (typeof value !== 'string') return null;
  if (SIGNIFICANT.test(value)) return 'significant';
  if (!DECIMAL.test(value)) return null;
  return rounds(path) ? 'increment' : 'decimal';
}

function leaves(value: unknown, path: Path): { path: Path; value: string | number; kind: FigureKind }[] {
  const kind = kindOf(path, value);
  if (kind) return [{ path, value: value as string | number, kind }];
  return entriesOf(value).flatMap(([key, inner]) => leaves(inner, [...path, key]));
}

const textOf = (value: string | number): string => SIGNIFICANT.exec(String(value))?.[1] ?? String(value);

function cellOf(path: Path): OwnFigure['cell'] {
  const at = path.findIndex((key) => key.startsWith('#'));
  if (at < 0) return null;
  const column = path.slice(at + 1);
  return {
    table: parameterWords(path.slice(0, at)).words,
    row: Number(path[at]!.slice(1)),
    column: column.length === 0 ? '' : parameterWords(column).words,
  };
}

/** Every figure of a variant that a lab may have otherwise, tables included, in the order of the parameters. */
export const figuresIn = (params: Parameters): OwnFigure[] =>
  leaves(params, []).map(({ path, value, kind }) => ({
    path: path.join('|'),
    ...parameterWords(path),
    ...(kind === 'significant' ? { unit: 'significant figures' } : {}),
    kind,
    text: textOf(value),
    cell: cellOf(path),
  }));

/** The parameters with a lab’s own figures in their places; what is no figure of theirs is left out. */
export function withOwn<P extends Parameters>(params: P, own: OwnFigures): P {
  const put = (value: unknown, path: Path): unknown => {
    const kind = kindOf(path, value);
    const mine = own[path.join('|')];
    if (kind) return mine === undefined ? value : typeof value === 'number' ? Number(mine) : kind === 'significant' ? `~${mine}` : mine;
    if (Array.isArray(value)) return value.map((inner, i) => put(inner, [...path, rowKey(i)]));
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(entriesOf(value).map(([key, inner]) => [key, put(inner, [...path, key])]));
  };
  return put(params, []) as P;
}

const no = (code: Code, params: Params = {}): Remark => ({ code, params });

const isIncrement = (text: string): boolean => INCREMENTS.has(text.replace('.', '').replace(/^0+|0+$/g, ''));

/** Of the same sign and size as the one in print; where that is zero, not below it. */
function isLike(mine: Exact, printed: Exact): boolean {
  const [a, b] = printed.compare(0) < 0 ? [mine.neg(), printed.neg()] : [mine, printed];
  if (b.compare(0) === 0) return a.compare(0) >= 0 && a.compare(MOST_TIMES) <= 0;
  return a.mul(MOST_TIMES).compare(b) >= 0 && a.compare(b.mul(MOST_TIMES)) <= 0;
}

/** What is wrong with one figure by itself; null where nothing is. */
function faultOf({ kind, text: printed }: OwnFigure, text: string): Remark | null {
  const mine = text.length <= LONGEST && DECIMAL.test(text) ? decimal(text) : null;
  if (!mine) return no('own-no-figure');
  if (kind === 'significant') return /^[1-9]$/.test(text) ? null : no('own-significant');
  if (kind === 'count' && !/^\d+$/.test(text)) return no('own-whole');
  if (!isLike(mine, decimal(printed)!)) return no('own-far', { printed });
  return kind === 'increment' && !isIncrement(text) ? no('own-increment') : null;
}

interface Fault {
  readonly path: Path;
  readonly fault: Remark;
}

/** Figures that must stay in order: the ends of a span, and a column of a table that is in order as it is printed. */
function disordered(printed: unknown, mine: unknown, path: Path): Fault[] {
  const before = new Map(entriesOf(printed));
  const within = entriesOf(mine).flatMap(([key, inner]) => disordered(before.get(key), inner, [...path, key]));
  const own = Array.isArray(mine) ? outOfOrder(printed as readonly Row[], mine as readonly Row[]) : spanTurned(before, entriesOf(mine));
  return [...within, ...own.map(({ path: at, fault }) => ({ path: [...path, ...at], fault }))];
}

type Row = Readonly<Record<string, unknown>>;

const upsideDown = (span: ReadonlyMap<string, unknown>): boolean => {
  const [low, high] = [valueOf(span.get('least')), valueOf(span.get('most'))];
  return low !== null && high !== null && low.compare(high) > 0;
};

/** What is called so without being the ends of a span is not in order in print either. */
const spanTurned = (before: ReadonlyMap<string, unknown>, mine: readonly (readonly [string, unknown])[]): Fault[] =>
  upsideDown(new Map(mine)) && !upsideDown(before) ? [{ path: ['most'], fault: no('own-span') }] : [];

function outOfOrder(printed: readonly Row[], mine: readonly Row[]): Fault[] {
  const columns = [...new Set(mine.flatMap((row) => entriesOf(row).map(([key]) => key)))];
  return columns.flatMap((key) => {
    const side = sideOf(printed.map((row) => valueOf(row[key])));
    const values = mine.map((row) => valueOf(row[key]));
    return values.flatMap((value, i): Fault[] => {
      const previous = i === 0 ? null : values[i - 1];
      const strays = side !== 0 && value && previous && Math.sign(value.compare(previous)) !== side;
      return strays ? [{ path: [rowKey(i), key], fault: no('own-order', { side: side > 0 ? 'above' : 'below' }) }] : [];
    });
  });
}

const valueOf = (value: unknown): Exact | null => {
  if (typeof value === 'number') return decimal(String(value));
  return typeof value === 'string' && DECIMAL.test(value) ? decimal(value) : null;
};

/** 1 where a column rises from row to row, -1 where it falls, 0 where it does neither. */
function sideOf(column: readonly (Exact | null)[]): -1 | 0 | 1 {
  const known = column.filter((v) => v !== null);
  const sides = new Set(known.slice(1).map((v, i) => Math.sign(v.compare(known[i]!))));
  const [only] = sides;
  return sides.size === 1 && only !== undefined ? (only as -1 | 0 | 1) : 0;
}

/** What is wrong with a lab’s own figures, by their path. */
export function ownFaults(params: Parameters, own: OwnFigures): Readonly<Record<string, Remark>> {
  const figures = new Map(figuresIn(params).map((f) => [f.path, f]));
  const single = Object.entries(own).flatMap(([path, text]): [string, Remark][] => {
    const figure = figures.get(path);
    const fault = figure ? faultOf(figure, text) : no('own-unknown');
    return fault === null ? [] : [[path, fault]];
  });
  if (single.length > 0) return Object.fromEntries(single);
  return Object.fromEntries(disordered(params, withOwn(params, own), []).map(({ path, fault }) => [path.join('|'), fault]));
}

/** What differs from the print, in words: `reported to 10 mm (in print 5 mm)`; empty where nothing does. */
export function ownWords(params: Parameters, own: OwnFigures): string {
  const with_ = (text: string, unit: string): string => (unit === '' ? text : `${text} ${unit}`);
  return figuresIn(params)
    .filter((f) => own[f.path] !== undefined && own[f.path] !== f.text)
    .map((f) => `${f.words} ${with_(own[f.path]!, f.unit)} (in print ${with_(f.text, f.unit)})`)
    .join('; ');
}

/** How a variant is done by a lab’s own figures, and that it was: of what is as printed nothing is said. */
export function byOwnCopy(m: AnyMethod, variant: string, own: OwnFigures | null): Pick<How, 'params' | 'notes'> {
  const printed = (m.variants as Readonly<Record<string, Variant<Parameters>>>)[variant];
  if (!printed || !own) return {};
  const what = ownWords(printed.params, own);
  if (what === '') return {};
  return { params: withOwn(printed.params, own), notes: [{ code: 'own-copy', params: { variant: printed.label, what } }] };
}
