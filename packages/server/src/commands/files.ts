import type { FileInfo } from '@keen-mortar/contract';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { Refused } from '../problems.js';
import { pictureOf, type Picture } from '../pictures.js';
import { filesOf, insertFile } from '../store/files.js';
import { lineOf, lockLine } from '../store/items.js';
import { refuse } from './checks.js';
import { tellOf } from './telling.js';

/** So many of one item: its sheet shows them all. */
const MOST_FILES = 100;

/** What came, as it is kept. */
export interface Read {
  readonly type: FileInfo['type'];
  readonly bytes: Buffer;
  readonly picture: Picture | null;
}

/** What came is what it says: a picture is drawn anew, a paper begins and ends as one. */
export async function readFile(bytes: unknown): Promise<Read> {
  if (!Buffer.isBuffer(bytes) || bytes.length === 0)
    throw new Refused('not-a-picture', 'Send a picture (JPEG, PNG, WebP) or a PDF, with its content type.');
  if (bytes.subarray(0, 5).toString('latin1') === '%PDF-') {
    if (!bytes.subarray(-2048).includes('%%EOF')) throw new Refused('not-a-picture', 'This PDF is cut off: send it again.');
    return { type: 'application/pdf', bytes, picture: null };
  }
  const picture = await pictureOf(bytes);
  return { type: picture.type, bytes: picture.bytes, picture };
}

/** A picture or a paper is put to an item. */
export async function attachFile(cx: PoolConnection, act: Act, itemId: string, id: string, name: string, read: Read): Promise<FileInfo> {
  await lockLine(cx, itemId);
  const line = await lineOf(cx, itemId);
  const gone = line.find((i) => i.voided);
  if (gone) throw refuse('voided', 'itemId', `${gone.code} was voided: nothing is added to it.`);
  if ((await filesOf(cx, itemId)).length >= MOST_FILES) throw refuse('too-many', 'itemId', `An item has at most ${MOST_FILES} files.`);
  const { type, bytes, picture } = read;
  const size = picture ? { width: picture.width, height: picture.height } : null;
  const file = { id, itemId, by: act.personId, name, type, bytes: bytes.length, size };
  await insertFile(cx, { ...file, at: act.now }, bytes, picture?.preview ?? null);
  await tellOf(cx, act, line, 'file', id);
  return { ...file, at: act.now.toISOString() };
}
