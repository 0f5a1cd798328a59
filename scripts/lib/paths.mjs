import { join } from 'node:path';

export const ROOT = join(import.meta.dirname, '..', '..');
export const DIST = join(ROOT, 'dist');
/** Where everything that must outlive a stop is kept: database, passwords, what runs. */
export const DATA = process.env.KEEN_MORTAR_DATA ?? join(ROOT, '.data');
export const PORT = Number(process.env.KEEN_MORTAR_PORT ?? 4310);
