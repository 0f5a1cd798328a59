import { LRUCache } from 'lru-cache';

/** So many rows that never change are remembered. */
const MOST = 10_000;

const known = new LRUCache<string, Promise<object>>({ max: MOST });

/**
 * What is only ever added and never changed is read from the tables once: a revision, a calibration, a project.
 * Nothing else may come through here; other servers add, and change, as they like.
 */
export function unchanging<T extends object>(kind: string, id: string, read: () => Promise<T>): Promise<T> {
  const key = `${kind} ${id}`;
  const found = known.get(key) as Promise<T> | undefined;
  if (found) return found;
  // Asked for twice at once it is read once; what could not be read is not remembered.
  const value = read().catch((error: unknown) => {
    known.delete(key);
    throw error;
  });
  known.set(key, value);
  return value;
}
