/* npm test: everything checked. The last line is the counts over all suites. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { checkNode, installDebian, installPackages } from './lib/install.mjs';
import { ROOT } from './lib/paths.mjs';
import { endCommands, run } from './lib/run.mjs';
import { step } from './lib/steps.mjs';
import { inWords } from './lib/trouble.mjs';

const total = { passed: 0, failed: 0 };
let database = null;
let folder = null;

/** A suite that prints its own counts; `count` reads them. A suite that ends without any is a failure. */
async function suite(name, command, args, { env = {}, cwd = ROOT, count }) {
  await step(name, async () => {
    let output;
    let ended = true;
    try {
      output = await run(command, args, { cwd, env: { ...process.env, NG_CLI_ANALYTICS: 'false', FORCE_COLOR: '0', ...env } });
    } catch (error) {
      ended = false;
      output = error.output ?? String(error);
    }
    const counts = count(output, ended);
    if (!ended || counts.failed > 0) process.stdout.write(`${output}\n`);
    if (!ended && counts.failed === 0) counts.failed = 1;
    total.passed += counts.passed;
    total.failed += counts.failed;
    return `${counts.passed} passed, ${counts.failed} failed`;
  });
}

const asOne = (_output, ended) => ({ passed: ended ? 1 : 0, failed: ended ? 0 : 1 });

function jasmineCounts(output) {
  const match = [...output.matchAll(/(\d+) specs?, (\d+) failures?/g)].at(-1);
  return match ? { passed: Number(match[1]) - Number(match[2]), failed: Number(match[2]) } : { passed: 0, failed: 1 };
}

function karmaCounts(output) {
  const match = [...output.matchAll(/Executed (\d+) of (\d+)(?:[^\n]*?\((\d+) FAILED\))?/g)].at(-1);
  const [ran, failed] = [Number(match?.[1] ?? 0), Number(match?.[3] ?? 0)];
  return ran > 0 ? { passed: ran - failed, failed } : { passed: 0, failed: 1 };
}

function playwrightCounts(output) {
  const number = (word) => Number(new RegExp(`(\\d+) ${word}`).exec(output)?.[1] ?? 0);
  const [passed, failed] = [number('passed'), number('failed') + number('did not run') + number('interrupted')];
  return passed + failed > 0 ? { passed, failed } : { passed: 0, failed: 1 };
}

async function cleanUp() {
  endCommands();
  await database?.stop();
  if (folder) rmSync(folder, { recursive: true, force: true });
}
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => void cleanUp().then(() => process.exit(130)));

const only = process.argv.slice(2);
const wanted = (name) => only.length === 0 || only.includes(name);
const tsx = { NODE_OPTIONS: '--import tsx' };

try {
  checkNode();
  await step('npm packages', installPackages);
  await step('Debian packages', () => installDebian(['mariadb-server', 'chromium']));
  if (wanted('lint')) await suite('lint and format', 'npm', ['run', '--silent', 'lint'], { count: asOne });
  if (wanted('types')) {
    for (const name of ['core', 'contract', 'server', 'web'])
      await suite(`types of ${name}`, 'npx', ['tsc', '-p', `packages/${name}`, '--noEmit'], { count: asOne });
    await suite('types of tests and tools', 'npx', ['tsc', '-p', 'tsconfig.tools.json'], { count: asOne });
  }
  if (wanted('core')) await suite('core', 'npx', ['jasmine', '--config=packages/core/jasmine.json'], { env: tsx, count: jasmineCounts });
  if (wanted('core')) {
    const { ahead, MOMENTS } = await import('./test-clock.mjs');
    for (const [words, minutes] of MOMENTS)
      await suite(`core ${words}`, 'npx', ['jasmine', '--config=packages/core/jasmine.json'], {
        env: ahead(minutes),
        count: jasmineCounts,
      });
  }
  if (wanted('scripts')) await suite('scripts', 'npx', ['jasmine', '--config=scripts/jasmine.json'], { count: jasmineCounts });
  if (wanted('server') || wanted('e2e')) {
    await step('MariaDB for the tests', async () => {
      const { startDatabase } = await import('./lib/database.mjs');
      folder = mkdtempSync(join(tmpdir(), 'km-test-'));
      database = await startDatabase(folder, { port: 0, databases: ['km_server', 'km_migrate', 'km_e2e', 'km_empty', 'km_moved'] });
      return `on port ${database.port}`;
    });
    const urls = (name) => database.urlsFor(name);
    if (wanted('server')) {
      const env = {
        ...tsx,
        TEST_MIGRATE_URL: urls('km_server').migrateUrl,
        TEST_RUN_URL: urls('km_server').runUrl,
        TEST_EMPTY_URL: urls('km_migrate').migrateUrl,
      };
      await suite('server', 'npx', ['jasmine', '--config=packages/server/jasmine.json'], { env, count: jasmineCounts });
    }
    if (wanted('web')) await suite('web', 'npx', ['ng', 'test'], { cwd: join(ROOT, 'packages/web'), count: karmaCounts });
    if (wanted('e2e')) {
      const { buildIfChanged, buildServer } = await import('./lib/build.mjs');
      const { MOVING } = await import('./lib/paths.mjs');
      await step('Build', buildIfChanged);
      await step('A server whose clock can be set ahead', () => buildServer(MOVING, true));
      const env = {
        E2E_MOVING: MOVING,
        E2E_MOVED_MIGRATE_URL: urls('km_moved').migrateUrl,
        E2E_MOVED_RUN_URL: urls('km_moved').runUrl,
        E2E_MIGRATE_URL: urls('km_e2e').migrateUrl,
        E2E_RUN_URL: urls('km_e2e').runUrl,
        E2E_EMPTY_MIGRATE_URL: urls('km_empty').migrateUrl,
        E2E_EMPTY_RUN_URL: urls('km_empty').runUrl,
      };
      await suite(
        'journeys',
        'npx',
        ['playwright', 'test', '--config=e2e/playwright.config.ts', ...(process.env.JOURNEYS ?? '').split(' ').filter(Boolean)],
        { env, count: playwrightCounts },
      );
    }
  } else if (wanted('web')) {
    await suite('web', 'npx', ['ng', 'test'], { cwd: join(ROOT, 'packages/web'), count: karmaCounts });
  }
} catch (error) {
  console.error(inWords(error));
  total.failed += 1;
} finally {
  await cleanUp();
}
process.stdout.write(`\n${total.passed} passed, ${total.failed} failed\n`);
process.exitCode = total.failed > 0 ? 1 : 0;
