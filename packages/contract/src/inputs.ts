import {
  momentOf,
  MOST_ROWS,
  unitsFor,
  unitsOf,
  type UnitId,
  type AnyInputs,
  type AnyMethod,
  type Field,
  type Shape,
} from '@keen-mortar/core';
import * as z from 'zod';

/** A moment of a record: ISO with its offset, in a year that can be written back. */
export const moment = z.iso.datetime({ offset: true }).refine((iso) => momentOf(iso) !== null, 'a moment between 1900 and 2199');

/** Longest text of a reading, keypad slips included; the core says what is a number. */
const keyedText = z.string().max(40);

/**
 * Schema of one declared field: shape only. What a reading may be (ranges, swapped masses) is the
 * core's to say, because it says it with the limit and with what would be plausible.
 */
export function fieldSchema(field: Field): z.ZodType {
  switch (field.kind) {
    case 'qty':
      return z.strictObject({
        text: keyedText,
        unit: z.enum([...new Set([...unitsOf(field.dimension), ...unitsFor(field)])] as [UnitId, ...UnitId[]]),
        reading: z.uuid().optional(),
      });
    case 'pick':
      return z.enum(Object.keys(field.options) as [string, ...string[]]);
    case 'rows':
      return z.array(inputsSchema(field.of as Shape)).max(field.most ?? MOST_ROWS);
    case 'instant':
      return moment;
    case 'text':
      return z.string().max(200);
  }
}

/** Schema of a method's inputs, derived from its declaration; every field may be absent or null. */
export function inputsSchema(shape: Shape): z.ZodType<AnyInputs> {
  const fields = Object.fromEntries(Object.entries(shape).map(([id, field]) => [id, fieldSchema(field).nullish()]));
  // The one cast: Zod cannot see that the schema was made from the shape that types the inputs.
  return z.strictObject(fields) as unknown as z.ZodType<AnyInputs>;
}

export const computeBody = (m: AnyMethod) =>
  z.strictObject({
    inputs: inputsSchema(m.fields as Shape),
    variant: z.enum(Object.keys(m.variants) as [string, ...string[]]).optional(),
    system: z.enum(['si', 'us']).default('si'),
    /** What the method's other variants would give, too. */
    variants: z.boolean().default(false),
  });
