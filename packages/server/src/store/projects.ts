import type { Page, Person, Project, newProject } from '@keen-mortar/contract';
import type { PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import { clockOf, insert, select, selectOne, type Cx } from '../db.js';
import { notFound, Refused } from '../problems.js';

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

export async function projectOf(cx: Cx, id: string): Promise<Project> {
  const row = await selectOne<ProjectRow>(cx, `SELECT ${COLUMNS} FROM project WHERE id = ?`, [id]);
  if (!row) throw notFound('project', id);
  return project(row);
}

export async function addProject(cx: PoolConnection, body: z.infer<typeof newProject>): Promise<void> {
  await personOf(cx, body.by);
  await insert(cx, 'project', {
    id: body.id,
    code: body.code,
    name: body.name,
    site: body.site,
    unit_system: body.system,
    practice: body.practice,
    timezone: body.timezone,
    created_at: await clockOf(cx),
  });
}

export const people = (cx: Cx): Promise<Person[]> => select<Person>(cx, 'SELECT id, name, role FROM person ORDER BY name');

/** The person of a write. There is no reading without one. */
export async function personOf(cx: Cx, id: string): Promise<void> {
  if (!(await selectOne(cx, 'SELECT id FROM person WHERE id = ?', [id]))) {
    throw new Refused('invalid-input', 'Nobody has this id.', [{ code: 'unknown-person', path: 'by', message: 'Nobody has this id.' }]);
  }
}

export const addPerson = (cx: Cx, person: Person): Promise<number> => insert(cx, 'person', { ...person });

export async function countOf(cx: Cx, table: string, where = '1 = 1', values: readonly unknown[] = []): Promise<number> {
  const row = await selectOne<{ n: number }>(cx, `SELECT COUNT(*) AS n FROM ${table} WHERE ${where}`, values);
  return Number(row?.n ?? 0);
}

/** Refuses a reference to something that is missing or belongs to another project. */
export async function mustBeOf(
  cx: Cx,
  table: 'mix' | 'specification' | 'equipment',
  id: string,
  projectId: string,
  path: string,
): Promise<void> {
  const row = await selectOne<{ project_id: string }>(cx, `SELECT project_id FROM ${table} WHERE id = ?`, [id]);
  const message = row ? `This ${table} belongs to another project.` : `There is no ${table} with this id.`;
  if (row?.project_id === projectId) return;
  throw new Refused(row ? 'other-project' : 'invalid-input', message, [{ code: row ? 'other-project' : 'unknown', path, message }]);
}
