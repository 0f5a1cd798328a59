import {
  answerTexts,
  figureText,
  convert,
  read,
  type AnyInputs,
  type Evaluation,
  type Keyed,
  type QtyField,
  type RowsField,
  type Shape,
  type UnitId,
  type AnyMethod,
  type Field,
} from '@keen-mortar/core';
import { keyedAt, rowsAt } from './form/inputs';

/** A field of the method in hand, by its id; the method's own shape is known only at run time. */
export const fieldOf = <F extends Field>(m: AnyMethod | null, id: string): F => (m?.fields as Shape)[id] as F;

/** Figures for drawing: positions only, nothing is computed from them. */
export const seriesOf = (e: Evaluation | null, id: string): number[] =>
  e?.results.find((r) => r.id === id)?.series?.map((f) => Number(f.unrounded)) ?? [];

export const figureOf = (e: Evaluation | null, id: string): number | null => {
  const text = e?.results.find((r) => r.id === id)?.unrounded ?? null;
  return text === null ? null : Number(text);
};

export const wordsOf = (e: Evaluation | null, id: string): readonly string[] => e?.results.find((r) => r.id === id)?.words ?? [];

/** A keyed quantity in `unit`; NaN while it cannot be read. */
export function drawnIn(keyed: Keyed | null, field: QtyField, unit: UnitId): number {
  const value = keyed && read(keyed, field.dimension, field);
  return value === null || 'fault' in value ? NaN : Number(convert(value, keyed!.unit, unit).valueOf());
}

/** One quantity of every row in `unit`. */
export function columnOf(inputs: AnyInputs, rows: string, field: RowsField, id: string, unit: UnitId): number[] {
  return rowsAt(inputs, rows).map((row) => drawnIn(keyedAt(row, id), field.of[id] as QtyField, unit));
}

/** Figures as they read: rounded by the core, never by the picture. */
export const textsOf = (m: AnyMethod | null, e: Evaluation | null, id: string): string[] => {
  const [field, r] = [m?.results[id], e?.results.find((result) => result.id === id)];
  return field && r ? answerTexts(field, r) : [];
};

/** A series before any reporting increment, to so many digits: neighbours on a picture are to be told apart. */
export const closeTexts = (e: Evaluation | null, id: string, digits = 4): string[] =>
  e?.results.find((r) => r.id === id)?.series?.map((f) => figureText({ reported: null, unrounded: f.unrounded }, digits)) ?? [];

export interface Point {
  readonly x: number;
  readonly y: number;
}

/** Pairs of two columns, those that can be drawn. */
export const pairsOf = (x: readonly number[], y: readonly number[]): Point[] =>
  x.flatMap((at, i) => (Number.isFinite(at) && Number.isFinite(y[i]) ? [{ x: at, y: y[i]! }] : []));
