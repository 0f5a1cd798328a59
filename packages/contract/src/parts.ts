import { UNIT_IDS, type UnitId } from '@keen-mortar/core';
import * as z from 'zod';
import { moment } from './inputs.js';

/** In small letters, as the tables give it back: capitals name the same thing. */
export const id = z.uuid().transform((text) => text.toLowerCase());
/** As long as the columns that hold them. */
const LONGEST_NAME = 120;
export const name = z.string().trim().min(1).max(LONGEST_NAME);
export const short = z.string().trim().min(1).max(40);
export const instant = moment;
export const day = z.iso.date().refine((text) => text >= '1900-01-01' && text < '2200-01-01', 'a day between 1900 and 2199');
export const unit = z.enum(UNIT_IDS as [UnitId, ...UnitId[]]);

/** Every write carries the id that its maker gave it, so that it can be repeated safely, and who makes it. */
export const written = { id, by: id };

/** What is unlikely beside what is on record is kept with a reason. */
export const answering = {
  /** Why it is so, where something of it is unlikely. */
  reason: z.string().trim().min(3).max(400).optional(),
  /** When what its maker knew of the record was read: what came later is asked about afterwards, and refuses nothing. */
  known: moment.optional(),
};

/** A code that a device gave without a network: the core says of which kinds it may be, and how it is written. */
export const issuedCode = z.string().max(20);

/** Some of a list, and how many there are in all. */
export interface Page<T> {
  readonly items: readonly T[];
  readonly total: number;
}
