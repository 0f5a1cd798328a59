import { fork } from 'node:child_process';
import { join } from 'node:path';
import { DIST } from './paths.mjs';
import { run } from './run.mjs';
import { Trouble } from './trouble.mjs';

/** Applies migrations and, into an empty database, the demo scenario. Two accounts: one for each. */
export async function prepare(urls, { demo = process.env.KEEN_MORTAR_DEMO !== '0' } = {}) {
  const env = {
    ...process.env,
    KEEN_MORTAR_MIGRATE_URL: urls.migrateUrl,
    KEEN_MORTAR_DATABASE_URL: urls.runUrl,
    KEEN_MORTAR_DEMO: demo ? '1' : '0',
  };
  try {
    return (await run(process.execPath, ['--enable-source-maps', join(DIST, 'server/prepare.js')], { env })).trim();
  } catch (error) {
    if (error.code === 3) throw new Trouble(error.output.trim());
    throw error;
  }
}

/** How long the server may take to end its requests and stop, ms. */
const STOP_MS = 8_000;

/** Starts the built server; resolves when it serves. `stop` ends it in peace. */
export function serve(runUrl, port, { log = 'warn', data, instruments } = {}) {
  const child = fork(join(DIST, 'server/main.js'), {
    execArgv: ['--enable-source-maps'],
    detached: true,
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    env: {
      ...process.env,
      KEEN_MORTAR_DATABASE_URL: runUrl,
      KEEN_MORTAR_PORT: String(port),
      KEEN_MORTAR_WEB: join(DIST, 'web/browser'),
      KEEN_MORTAR_LOG: log,
      ...(data === undefined ? {} : { KEEN_MORTAR_DATA: data }),
      ...(instruments === undefined ? {} : { KEEN_MORTAR_INSTRUMENTS: instruments }),
    },
  });
  const ended = new Promise((resolve) => child.once('exit', (code, signal) => resolve(signal ?? code)));
  const stop = async () => {
    child.kill('SIGTERM');
    child.kill('SIGCONT');
    const late = setTimeout(() => child.kill('SIGKILL'), STOP_MS);
    await ended;
    clearTimeout(late);
  };
  return new Promise((resolve, reject) => {
    child.once('message', (message) => resolve({ port: message.port, child, ended, stop }));
    void ended.then((code) => {
      reject(
        code === 98
          ? new Trouble(`Port ${port} is in use by another program. Choose another one: KEEN_MORTAR_PORT=${port + 1} npm start`)
          : new Error(`the server ended with ${code}`),
      );
    });
  });
}

/** Starts the instruments of the demonstration; resolves with their addresses, as the server takes them. */
export function serveStandIns() {
  const child = fork(join(DIST, 'server/stand-ins.js'), { execArgv: [], detached: true, stdio: ['ignore', 'inherit', 'inherit', 'ipc'] });
  const ended = new Promise((resolve) => child.once('exit', resolve));
  const stop = async () => {
    child.kill('SIGTERM');
    await ended;
  };
  return new Promise((resolve, reject) => {
    child.once('message', ({ ports }) => resolve({ addresses: ports.map((port) => `127.0.0.1:${port}`).join(','), stop }));
    void ended.then((code) => reject(new Error(`the instruments ended with ${code}`)));
  });
}
