import { unitsOf, writtenDecimal, type UnitId } from '@keen-mortar/core';
import * as z from 'zod';
import { unit } from './parts.js';

const DECIMAL = /^-?\d{1,12}(\.\d{1,10})?$/;
/**
 * Decimal text: kept as written, since its last place decides how a value is compared with it; what people write otherwise, `3/4`
 * or `12,5`, as the decimal that it is.
 */
export const decimalText = z
  .string()
  .transform((text) => (DECIMAL.test(text) ? text : (writtenDecimal(text) ?? text)))
  .pipe(z.string().regex(DECIMAL, 'a decimal number such as 5, 5.0 or 3/4'));
export const positiveText = decimalText.refine((text) => Number(text) > 0, 'above zero');
export const quantity = z.strictObject({ text: positiveText, unit });
export const dimension = (dimensionUnits: readonly string[]) =>
  quantity.refine((q) => dimensionUnits.includes(q.unit), `one of ${dimensionUnits.join(', ')}`);
export const massQuantityUnits: ReadonlySet<string> = new Set(unitsOf('mass'));
export const massQuantity = dimension(unitsOf('mass'));
/** Water is weighed, or measured as drivers do: litres, gallons. */
export const waterQuantity = dimension([...unitsOf('mass'), 'L', 'gal']);
export const volumeQuantity = dimension(['L', 'm3', 'ft3', 'yd3']);
export const lengthQuantity = dimension(['mm', 'in']);
export const percent = decimalText.refine((text) => Number(text) >= 0 && Number(text) <= 50, 'between 0 and 50 %');

export interface Amount {
  readonly text: string;
  readonly unit: UnitId;
}
