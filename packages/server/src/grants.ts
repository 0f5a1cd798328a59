import { createConnection, type Connection, type RowDataPacket } from 'mysql2/promise';

const REFUSED = new Set([
  'ER_ACCESS_DENIED_ERROR',
  'ER_DBACCESS_DENIED_ERROR',
  'ER_TABLEACCESS_DENIED_ERROR',
  'ER_NONEXISTING_GRANT',
  'ER_CANT_CREATE_USER_WITH_GRANT',
]);

const codeOf = (error: unknown): string => String((error as { code?: unknown }).code);

/** Tables that the running account has no business in. */
const NOT_FOR_RUNNING = new Set(['migration']);

/** What is derived of the record: a command makes it again, and so may change it. Of an item only what follows from its entries; of a mix how often that was done. */
const DERIVED: Readonly<Record<string, string>> = {
  item: 'UPDATE (name, day, at, facts, answered, revision_id, voided, children, samples, outs, worst, writes)',
  mix: 'UPDATE (writes)',
  counter: 'UPDATE',
  due: 'UPDATE, DELETE',
  ledger: 'UPDATE, DELETE',
  ledger_view: 'DELETE',
  standing: 'UPDATE, DELETE',
  strength: 'UPDATE, DELETE',
  gift: 'UPDATE, DELETE',
  stood_on: 'UPDATE, DELETE',
  pending: 'UPDATE, DELETE',
  finding: 'UPDATE, DELETE',
  pending_line: 'UPDATE, DELETE',
};

/**
 * Gives the running account SELECT and INSERT on each table of the record, on what is derived more, and on nothing else: what was
 * migrated is for the migrating account alone. On a server where that account may not grant, whoever
 * runs it has given the rights.
 */
export async function grantRunning(migrateUrl: string, runUrl: string): Promise<void> {
  const account = await accountOf(runUrl);
  const cx = await createConnection({ uri: migrateUrl });
  try {
    const [rows] = await cx.query<RowDataPacket[]>(
      'SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE()',
    );
    // Earlier versions gave it the whole database.
    await allowed(cx, `REVOKE INSERT ON \`${new URL(migrateUrl).pathname.slice(1)}\`.* FROM ${account}`);
    for (const { name } of rows as { name: string }[])
      if (!NOT_FOR_RUNNING.has(name))
        await allowed(cx, `GRANT SELECT, INSERT${DERIVED[name] ? `, ${DERIVED[name]}` : ''} ON \`${name}\` TO ${account}`);
  } finally {
    await cx.end();
  }
}

async function allowed(cx: Connection, sql: string): Promise<void> {
  await cx.query(sql).catch((error: unknown) => {
    if (!REFUSED.has(codeOf(error))) throw error;
  });
}

/** `'run'@'127.0.0.1'`: the account as the database knows it. Before it was given anything it may only connect. */
async function accountOf(url: string): Promise<string> {
  const bare = new URL(url);
  bare.pathname = '/';
  const cx = await createConnection({ uri: bare.href });
  try {
    const [rows] = await cx.query<RowDataPacket[]>('SELECT CURRENT_USER() AS account');
    const [user = '', host = ''] = String(rows[0]?.['account']).split('@');
    return `'${user}'@'${host}'`;
  } finally {
    await cx.end();
  }
}
