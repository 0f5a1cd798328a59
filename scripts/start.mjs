/* npm start: from a fresh clone to the served application. Needs nothing but Node itself. */
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { checkNode, installDebian, installPackages } from './lib/install.mjs';
import { DATA, PORT } from './lib/paths.mjs';
import { endCommands } from './lib/run.mjs';
import { step } from './lib/steps.mjs';
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

function takeLock() {
  mkdirSync(DATA, { recursive: true, mode: 0o700 });
  if (existsSync(lock)) {
    const { pid, url } = JSON.parse(readFileSync(lock, 'utf8') || '{}');
    const cmdline = `/proc/${pid}/cmdline`;
    if (pid && pid !== process.pid && existsSync(cmdline) && readFileSync(cmdline, 'utf8').includes('start.mjs')) {
      throw new Trouble(`Keen Mortar is running already (process ${pid}): ${url}. Stop it with Ctrl-C there, or: kill ${pid}`);
    }
  }
  writeFileSync(lock, JSON.stringify({ pid: process.pid, url: `http://127.0.0.1:${PORT}` }));
  started.push(async () => rmSync(lock, { force: true }));
}

function checkPort() {
  return new Promise((resolve, reject) => {
    const probe = connect(PORT, '127.0.0.1');
    probe.once(
      'connect',
      () => (
        probe.destroy(),
        reject(new Trouble(`Port ${PORT} is in use by another program. Choose another one: KEEN_MORTAR_PORT=${PORT + 1} npm start`))
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

try {
  checkNode();
  takeLock();
  await checkPort();
  const existing = existingServer();
  let urls = existing;
  console.log('Keen Mortar');
  await step('npm packages', installPackages);
  if (!existing) {
    await step('Debian packages', () => installDebian(['mariadb-server']));
    await step('Database', async () => {
      const { startDatabase } = await import('./lib/database.mjs');
      const database = await startDatabase(DATA);
      started.push(database.stop);
      urls = database;
      return `on port ${database.port}`;
    });
  }
  const { buildIfChanged } = await import('./lib/build.mjs');
  await step('Build', buildIfChanged);
  const { prepare, serve } = await import('./lib/serve.mjs');
  await step('Tables and demo', () => prepare(urls));
  const server = await serve(urls.runUrl, PORT);
  started.push(server.stop);
  console.log(
    `\n  http://127.0.0.1:${server.port}   ready after ${((performance.now() - since) / 1000).toFixed(1)} s. Ctrl-C stops everything.\n`,
  );
  void server.ended.then((code) => {
    if (!stopping) {
      console.error(`The server ended with ${code}. Start again; everything that was kept is in the database.`);
      void stop(1);
    }
  });
} catch (error) {
  if (!stopping) {
    console.error(`\n${inWords(error)}`);
    await stop(1);
  }
}
