import type { Certificate, NewCertificate, Person } from '@keen-mortar/contract';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { insert, select, selectOne, type Cx } from '../db.js';

/** More people than work in any lab are not one list; nor are more certificates. */
const MOST_PEOPLE = 1000;
const MOST_CERTIFICATES = 2000;

export const people = (cx: Cx): Promise<Person[]> =>
  select<Person>(cx, 'SELECT id, name, role FROM person ORDER BY name, id LIMIT ?', [MOST_PEOPLE]);

export const personOf = (cx: Cx, id: string): Promise<Person | undefined> =>
  selectOne<Person>(cx, 'SELECT id, name, role FROM person WHERE id = ?', [id]);

export const insertPerson = (cx: Cx, person: Person): Promise<number> => insert(cx, 'person', { ...person });

export const insertCertificate = (cx: PoolConnection, act: Act, body: NewCertificate): Promise<number> =>
  insert(cx, 'certificate', {
    id: body.id,
    person_id: body.personId,
    what: body.what,
    number: body.number ?? null,
    from_day: body.from,
    until_day: body.until,
    made_by: act.personId,
    made_at: act.now,
  });

interface CertificateRow {
  id: string;
  person_id: string;
  what: string;
  number: string | null;
  from_day: string;
  until_day: string;
}

/** The certificates of everybody, what was put on record last first: of one name it takes the place of those before it. */
export async function certificates(cx: Cx): Promise<Certificate[]> {
  const rows = await select<CertificateRow>(
    cx,
    'SELECT id, person_id, what, number, from_day, until_day FROM certificate ORDER BY made_at DESC, until_day DESC, id LIMIT ?',
    [MOST_CERTIFICATES],
  );
  const seen = new Set<string>();
  return rows.map((row) => {
    const name = `${row.person_id} ${row.what.toLowerCase()}`;
    const inForce = !seen.has(name);
    seen.add(name);
    return { id: row.id, personId: row.person_id, what: row.what, number: row.number, from: row.from_day, until: row.until_day, inForce };
  });
}

export const insertDevice = (cx: PoolConnection, act: Act, id: string, number: number): Promise<number> =>
  insert(cx, 'device', { id, number, person_id: act.personId, made_at: act.now });

export const deviceNumber = async (cx: Cx, id: string): Promise<number | undefined> =>
  (await selectOne<{ number: number }>(cx, 'SELECT number FROM device WHERE id = ?', [id]))?.number;
