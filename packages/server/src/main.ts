import { createServer } from 'node:http';
import { pino } from 'pino';
import { configFrom } from './config.js';
import { Computing } from './computing/computing.js';
import { connect } from './db.js';
import { build } from './http/app.js';
import { hearing } from './changes.js';
import { Instruments } from './instruments/bridge.js';
import { Postponed } from './postponed.js';

const BEAT = 15_000;
/** So long a request may take to come, ms. */
const LONGEST_REQUEST = 3_600_000;
/** How long the database may take to say goodbye. */
const GOODBYE = 1_500;
/** How long open requests may take to end before they are cut. */
const PATIENCE = 5_000;

const config = configFrom(process.env);
const log = pino({ level: config.log });
const pool = connect(config.databaseUrl);
const { live, changes } = hearing(pool);
const computing = new Computing();
const postponed = new Postponed(pool, log);
const instruments = new Instruments(config.instruments);
instruments.start();
const server = createServer(
  build({ pool, live, changes, log, computing, instruments, web: config.web, hosts: config.hosts, data: config.data }),
);
// A record of years takes its time to come.
server.requestTimeout = LONGEST_REQUEST;
changes.start();
postponed.start();
const beat = setInterval(() => live.beat(), BEAT);

// Until people sign in, only this machine may talk to it.
server.listen(config.port, '127.0.0.1', () => {
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : config.port;
  log.info({ port }, 'serving');
  process.send?.({ kind: 'serving', port });
});
server.on('error', (error: NodeJS.ErrnoException) => {
  log.fatal({ err: error }, 'cannot serve');
  process.exitCode = error.code === 'EADDRINUSE' ? 98 : 1;
  void pool.end();
  clearInterval(beat);
});

// What nobody caught is for whoever reads the log: it ends nobody else's work.
process.on('unhandledRejection', (error) => log.error({ err: error }, 'a promise was rejected and nobody caught it'));
process.on('uncaughtException', (error) => log.error({ err: error }, 'an error was thrown and nobody caught it'));

let stopping = false;
function stop(signal: string): void {
  if (stopping) return;
  stopping = true;
  log.info({ signal }, 'stopping');
  clearInterval(beat);
  changes.stop();
  postponed.stop();
  live.close();
  instruments.stop();
  const end = (): void => process.exit(0);
  // A database that is frozen answers no goodbye: the process ends all the same.
  server.close(() => {
    void Promise.all([pool.end().catch(() => undefined), computing.close()]).then(end);
    setTimeout(end, GOODBYE).unref();
  });
  server.closeIdleConnections();
  setTimeout(() => server.closeAllConnections(), PATIENCE).unref();
}
process.on('SIGTERM', () => stop('SIGTERM'));
process.on('SIGINT', () => stop('SIGINT'));
process.on('disconnect', () => stop('disconnect'));
