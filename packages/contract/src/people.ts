import * as z from 'zod';
import { day, id, name, written } from './parts.js';

export const newPerson = z.strictObject({ ...written, name: z.string().trim().min(2).max(120), role: z.string().trim().min(2).max(60) });

/** What somebody may do, and until when. A newer one of the same name takes the place of the one before. */
export const newCertificate = z
  .strictObject({ ...written, personId: id, what: name, number: z.string().trim().min(1).max(60).optional(), from: day, until: day })
  .refine((c) => c.from <= c.until, { path: ['until'], message: 'not before it begins' });
export type NewCertificate = z.infer<typeof newCertificate>;

export interface Certificate {
  readonly id: string;
  readonly personId: string;
  readonly what: string;
  readonly number: string | null;
  /** Days, yyyy-mm-dd; the last one counts. */
  readonly from: string;
  readonly until: string;
  /** The newest of its name, of this person. */
  readonly inForce: boolean;
}

/** A device asks once how what it makes without a network is called. */
export const newDevice = z.strictObject(written);

export interface DeviceCodes {
  readonly id: string;
  /** Of each kind that has letters of its own, what its codes begin with on this device: `D-K`, and a number follows. */
  readonly begins: Readonly<Record<string, string>>;
}
