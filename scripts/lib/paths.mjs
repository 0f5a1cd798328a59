import { join } from 'node:path';
import { Trouble } from './trouble.mjs';

export const ROOT = join(import.meta.dirname, '..', '..');
/** The server of the tests alone whose clock goes ahead. */
export const MOVING = join(ROOT, '.cache/moving');
export const DIST = join(ROOT, 'dist');
/** Where everything that must outlive a stop is kept: database, passwords, what runs. */
export const DATA = process.env.KEEN_MORTAR_DATA ?? join(ROOT, '.data');

/** A port from a setting; says what is wrong with it otherwise. */
export function portFrom(text) {
  if (text === undefined || text === '') return 4310;
  const port = Number(text);
  if (Number.isInteger(port) && port > 0 && port < 65_536) return port;
  throw new Trouble(`KEEN_MORTAR_PORT is ${JSON.stringify(text)}: it must be a whole number from 1 to 65535.`);
}
