/* npm run bench: bundles the benchmark as the page is bundled (a loader that names every function would be measured too), and runs it. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import { ROOT } from './lib/paths.mjs';
import { run } from './lib/run.mjs';

const folder = mkdtempSync(join(tmpdir(), 'km-bench-'));
const outfile = join(folder, 'bench.mjs');
await build({
  entryPoints: [join(ROOT, 'packages/core/tools/bench.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
});
await import(pathToFileURL(outfile).href);
rmSync(folder, { recursive: true, force: true });

// What the server is asked for, at the sizes that it allows and beyond.
await run('npx', ['tsx', 'scripts/bench-requests.ts'], { cwd: ROOT, env: process.env }).then((text) => process.stdout.write(text));

// What the record costs with few and with many tests in it.
await run('npx', ['tsx', 'scripts/bench-record.ts'], { cwd: ROOT, env: process.env }).then((text) => process.stdout.write(text));

// What a whole record costs to give and to bring in.
await run('npx', ['tsx', 'scripts/bench-transfer.ts'], { cwd: ROOT, env: process.env }).then((text) => process.stdout.write(text));

// A long series of strength tests on record.
await run('npx', ['tsx', 'scripts/bench-series.ts'], { cwd: ROOT, env: process.env }).then((text) => process.stdout.write(text));

// What is found of a pour of some size, and a break into a long series.
await run('npx', ['tsx', 'scripts/bench-findings.ts'], { cwd: ROOT, env: process.env }).then((text) => process.stdout.write(text));

// What needs a browser: on the built page.
const { buildIfChanged } = await import('./lib/build.mjs');
const { installDebian } = await import('./lib/install.mjs');
await installDebian(['chromium']);
await buildIfChanged();
await run(process.execPath, ['scripts/bench-start.mjs'], { cwd: ROOT, env: process.env }).then((text) => process.stdout.write(text));
await run('npx', ['tsx', 'scripts/bench-page.ts'], { cwd: ROOT, env: process.env }).then((text) => process.stdout.write(text));

// What a key costs on the pour sheet, with the server beside it.
await run('npx', ['tsx', 'scripts/bench-sheet.ts'], { cwd: ROOT, env: process.env }).then((text) => process.stdout.write(text));
