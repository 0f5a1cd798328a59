/* The part of npm run bench that is about starting: a first and a second start, until the server answers. */
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ROOT } from './lib/paths.mjs';

const PORT = 4391;
const data = mkdtempSync(join(tmpdir(), 'km-bench-start-'));

const since = async (work) => {
  const from = performance.now();
  await work();
  return performance.now() - from;
};

/** Starts all, waits until it says that it is ready, and stops it again; ms until it was. */
async function start() {
  const child = spawn(process.execPath, ['scripts/start.mjs'], {
    cwd: ROOT,
    env: { ...process.env, KEEN_MORTAR_DATA: data, KEEN_MORTAR_PORT: String(PORT) },
  });
  const ended = new Promise((resolve) => child.once('exit', resolve));
  const took = await since(
    () =>
      new Promise((resolve, reject) => {
        child.stdout.on('data', (said) => String(said).includes('ready after') && resolve());
        void ended.then((code) => reject(new Error(`the start ended with ${code}`)));
      }),
  );
  child.kill('SIGTERM');
  await ended;
  return took;
}

const bare = await since(() => spawnSync(process.execPath, ['-e', '0']));
const [first, second] = [await start(), await start()];
rmSync(data, { recursive: true, force: true });
const row = (name, ms) =>
  console.log(`${name.padEnd(44)}${(ms / 1000).toFixed(1).padStart(8)} s   ${(ms / bare).toFixed(0).padStart(5)} × a bare node`);
console.log('\nStart (npm start, built already)');
row('first, with the demonstration', first);
row('second, with nothing changed', second);
