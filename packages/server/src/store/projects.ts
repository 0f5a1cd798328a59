import type { Page, Project, newProject } from '@keen-mortar/contract';
import type { PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import { insert, select, selectOne, type Cx } from '../db.js';
import { unchanging } from './unchanging.js';
import { notFound } from '../problems.js';

interface ProjectRow {
  id: string;
  code: string;
  name: string;
  site: string;
  unit_system: Project['system'];
  practice: Project['practice'];
  timezone: string;
}

const project = ({ unit_system, ...row }: ProjectRow): Project => ({ ...row, system: unit_system });

const COLUMNS = 'id, code, name, site, unit_system, practice, timezone';

export async function projects(cx: Cx, offset: number, limit: number): Promise<Page<Project>> {
  const rows = await select<ProjectRow>(cx, `SELECT ${COLUMNS} FROM project ORDER BY code LIMIT ? OFFSET ?`, [limit, offset]);
  return { items: rows.map(project), total: await countOf(cx, 'project') };
}

export const projectOf = (cx: Cx, id: string): Promise<Project> =>
  unchanging('project', id, async () => {
    const row = await selectOne<ProjectRow>(cx, `SELECT ${COLUMNS} FROM project WHERE id = ?`, [id]);
    if (!row) throw notFound('project', id);
    return project(row);
  });

export const insertProject = (cx: PoolConnection, body: z.infer<typeof newProject>, at: Date): Promise<number> =>
  insert(cx, 'project', {
    id: body.id,
    code: body.code,
    name: body.name,
    site: body.site,
    unit_system: body.system,
    practice: body.practice,
    timezone: body.timezone,
    created_at: at,
  });

export async function countOf(cx: Cx, table: string, where = '1 = 1', values: readonly unknown[] = []): Promise<number> {
  const row = await selectOne<{ n: number }>(cx, `SELECT COUNT(*) AS n FROM ${table} WHERE ${where}`, values);
  return Number(row?.n ?? 0);
}

/** The project that something belongs to; undefined where there is no such thing. */
export const projectIdOf = async (cx: Cx, table: 'mix' | 'specification' | 'equipment' | 'item', id: string): Promise<string | undefined> =>
  (await selectOne<{ project_id: string }>(cx, `SELECT project_id FROM ${table} WHERE id = ?`, [id]))?.project_id;
