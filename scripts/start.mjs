/* npm start: from a fresh clone to the served application. Needs nothing but Node itself. */
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { checkNode, installDebian, installPackages } from './lib/install.mjs';
import { DATA, portFrom } from './lib/paths.mjs';
import { endCommands } from './lib/run.mjs';
import { step } from './lib/steps.mjs';
import { supervise, watchFor } from './lib/supervise.mjs';
import { inWords, Trouble } from './lib/trouble.mjs';

const since = performance.now();
/** What has been started, in order; stopped in reverse. */
const started = [];
const lock = join(DATA, 'running.json');
let stopping = false;

async function stop(code) {
  if (stopping) return;
  stopping = true;
  endCommands();
  for (const part of started.reverse()) await part().catch((error) => console.error(inWords(error)));
  process.exit(code);
}
process.on('SIGINT', () => (console.log('\nStopping …'), void stop(0)));
process.on('SIGTERM', () => void stop(0));
process.on('SIGHUP', () => void stop(0));

/** Who holds the lock; nobody when it was left half-written. */
function lockHolder() {
  try {
    return JSON.parse(readFileSync(lock, 'utf8'));
  } catch {
    return {};
  }
}

function takeLock(port) {
  mkdirSync(DATA, { recursive: true, mode: 0o711 });
  if (existsSync(lock)) {
    const { pid, url } = lockHolder();
    const cmdline = `/proc/${pid}/cmdline`;
    if (pid && pid !== process.pid && existsSync(cmdline) && readFileSync(cmdline, 'utf8').includes('start.mjs')) {
      throw new Trouble(`Keen Mortar is running already (process ${pid}): ${url}. Stop it with Ctrl-C there, or: kill ${pid}`);
    }
  }
  writeFileSync(lock, JSON.stringify({ pid: process.pid, url: `http://127.0.0.1:${port}` }));
  started.push(async () => rmSync(lock, { force: true }));
}

function checkPort(port) {
  return new Promise((resolve, reject) => {
    const probe = connect(port, '127.0.0.1');
    probe.once(
      'connect',
      () => (
        probe.destroy(),
        reject(new Trouble(`Port ${port} is in use by another program. Choose another one: KEEN_MORTAR_PORT=${port + 1} npm start`))
      ),
    );
    probe.once('error', () => resolve());
  });
}

/** An existing server: one account that migrates, one that runs. */
function existingServer() {
  const { KEEN_MORTAR_MIGRATE_URL: migrateUrl, KEEN_MORTAR_DATABASE_URL: runUrl } = process.env;
  if (!migrateUrl && !runUrl) return null;
  if (!migrateUrl || !runUrl)
    throw new Trouble(
      'Set both KEEN_MORTAR_MIGRATE_URL (the account that migrates) and KEEN_MORTAR_DATABASE_URL (the account that runs), or neither.',
    );
  return { migrateUrl, runUrl };
}

/** The database, kept running; on the port that it had, so that the server finds it again. */
async function ownDatabase() {
  const { startDatabase } = await import('./lib/database.mjs');
  let port;
  const database = await supervise('The database', async () => {
    const part = await startDatabase(DATA, port === undefined ? {} : { port });
    port = part.port;
    return part;
  });
  const watch = watchFor('The database', database.part);
  started.push(database.stop, watch.stop);
  return database.part();
}

try {
  checkNode();
  const port = portFrom(process.env.KEEN_MORTAR_PORT);
  const existing = existingServer();
  takeLock(port);
  await checkPort(port);
  let urls = existing;
  console.log('Keen Mortar');
  await step('npm packages', installPackages);
  if (!existing) {
    await step('Debian packages', () => installDebian(['mariadb-server']));
    await step('Database', async () => {
      urls = await ownDatabase();
      return `on port ${urls.port}`;
    });
  }
  const { buildIfChanged } = await import('./lib/build.mjs');
  await step('Build', buildIfChanged);
  const { prepare, serve, serveStandIns } = await import('./lib/serve.mjs');
  await step('Tables and demo', () => prepare(urls));
  // With the demonstration come stand-ins for instruments; a lab names its own, or none.
  const standIns = process.env.KEEN_MORTAR_DEMO !== '0' && process.env.KEEN_MORTAR_INSTRUMENTS === undefined ? await serveStandIns() : null;
  if (standIns) started.push(standIns.stop);
  const wired = { ...(existing ? {} : { data: DATA }), ...(standIns ? { instruments: standIns.addresses } : {}) };
  const server = await supervise('The server', () => serve(urls.runUrl, port, wired));
  started.push(server.stop);
  console.log(
    `\n  http://127.0.0.1:${server.part().port}   ready after ${((performance.now() - since) / 1000).toFixed(1)} s. Ctrl-C stops everything.\n`,
  );
} catch (error) {
  if (!stopping) {
    console.error(`\n${inWords(error)}`);
    await stop(1);
  }
}
