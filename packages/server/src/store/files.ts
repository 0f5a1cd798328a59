import type { FileInfo } from '@keen-mortar/contract';
import type { PoolConnection } from 'mysql2/promise';
import { insert, insertBytes, select, selectOne, type Cx } from '../db.js';
import { notFound } from '../problems.js';

interface FileRow {
  id: string;
  item_id: string;
  person_id: string;
  made_at: Date;
  name: string;
  type: FileInfo['type'];
  bytes: number;
  width: number | null;
  height: number | null;
}

const COLUMNS = 'f.id, f.item_id, f.person_id, f.made_at, f.name, f.type, f.bytes, f.width, f.height';

const info = (row: FileRow): FileInfo => ({
  id: row.id,
  itemId: row.item_id,
  by: row.person_id,
  at: row.made_at.toISOString(),
  name: row.name,
  type: row.type,
  bytes: row.bytes,
  size: row.width === null || row.height === null ? null : { width: row.width, height: row.height },
});

/** The files of an item, the oldest first. */
export const filesOf = async (cx: Cx, itemId: string): Promise<FileInfo[]> =>
  (await select<FileRow>(cx, `SELECT ${COLUMNS} FROM file f WHERE f.item_id = ? ORDER BY f.made_at, f.id`, [itemId])).map(info);

export async function fileOf(cx: Cx, id: string): Promise<FileInfo> {
  const row = await selectOne<FileRow>(cx, `SELECT ${COLUMNS} FROM file f WHERE f.id = ?`, [id]);
  if (!row) throw notFound('file', id);
  return info(row);
}

/** What a file holds, or the small picture of it. */
export async function contentOf(cx: Cx, id: string, which: 'content' | 'preview'): Promise<{ type: string; name: string; bytes: Buffer }> {
  const row = await selectOne<{ type: string; name: string; bytes: Buffer | null }>(
    cx,
    `SELECT f.type, f.name, c.${which} AS bytes FROM file f JOIN file_content c ON c.file_id = f.id WHERE f.id = ?`,
    [id],
  );
  if (!row?.bytes) throw notFound('file', id);
  return { type: which === 'preview' ? 'image/jpeg' : row.type, name: row.name, bytes: row.bytes };
}

export async function insertFile(
  cx: PoolConnection,
  file: Omit<FileInfo, 'at'> & { readonly at: Date },
  content: Buffer,
  preview: Buffer | null,
): Promise<void> {
  await insert(cx, 'file', {
    id: file.id,
    item_id: file.itemId,
    person_id: file.by,
    made_at: file.at,
    name: file.name,
    type: file.type,
    bytes: file.bytes,
    width: file.size?.width ?? null,
    height: file.size?.height ?? null,
  });
  await insertBytes(cx, 'INSERT INTO file_content (file_id, content, preview) VALUES (?, ?, ?)', [file.id, content, preview]);
}
