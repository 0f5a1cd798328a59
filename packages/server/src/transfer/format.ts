import * as z from 'zod';

/**
 * A record as a file: JSON, a line each (application/x-ndjson). First what it is; then for each table its name with its columns
 * and its rows, each a list of texts and nulls, bytes as base64; last how many rows there are, and the SHA-256 of all lines before.
 */
export const RECORD_TYPE = 'application/x-ndjson';
export const FORMAT = 'keen-mortar-record';
export const VERSION = 1;

export const head = z.strictObject({
  format: z.literal(FORMAT),
  version: z.literal(VERSION),
  made: z.string(),
  project: z.strictObject({ id: z.uuid(), code: z.string(), name: z.string() }),
});
export type Head = z.infer<typeof head>;

export const tableLine = z.strictObject({ table: z.string(), columns: z.array(z.string()).min(1) });
export type Row = readonly (string | null)[];
/** Of rows there are a great many: looked at without a schema. */
export const isRow = (value: unknown): value is Row =>
  Array.isArray(value) && value.every((cell) => cell === null || typeof cell === 'string');
export const endLine = z.strictObject({ rows: z.number().int(), sha256: z.string() });
