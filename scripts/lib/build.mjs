import { createHash } from 'node:crypto';
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress } from 'node:zlib';
import { DIST, ROOT } from './paths.mjs';
import { run } from './run.mjs';

const brotli = promisify(brotliCompress);

const WATCHED = [
  'packages/core/src',
  'packages/contract/src',
  'packages/server/src',
  'packages/server/migrations',
  'packages/web',
  'demo',
  'package-lock.json',
  'tsconfig.base.json',
  'scripts/lib/build.mjs',
];
const SKIPPED = new Set(['node_modules', 'dist', '.angular']);

function* filesUnder(path) {
  if (!statSync(path).isDirectory()) return yield path;
  for (const name of readdirSync(path).sort()) if (!SKIPPED.has(name)) yield* filesUnder(join(path, name));
}

/** Changes when any source changes: contents, so that a fresh checkout of the same sources does not build again. */
export function fingerprint() {
  const hash = createHash('sha256');
  for (const root of WATCHED)
    for (const file of filesUnder(join(ROOT, root))) hash.update(file.slice(ROOT.length)).update(readFileSync(file));
  return hash.digest('hex');
}

/** Which core it is: a hash of its sources, stored with every result. */
export function coreIdentity(root = join(ROOT, 'packages/core/src')) {
  const hash = createHash('sha256');
  for (const file of filesUnder(root)) hash.update(file.slice(root.length)).update(readFileSync(file));
  return hash.digest('hex').slice(0, 16);
}

/** @param moves a build for tests alone, whose clock can be set ahead: days have to pass in one */
export async function buildServer(out, moves = false) {
  const { build } = await import('esbuild');
  const { dependencies } = JSON.parse(readFileSync(join(ROOT, 'packages/server/package.json'), 'utf8'));
  const external = [...Object.keys(dependencies), 'fraction.js'].filter((name) => !name.startsWith('@keen-mortar/'));
  await build({
    // Big computations run in a thread: its file lies beside the server's.
    entryPoints: Object.fromEntries(
      ['main', 'prepare', 'stand-ins', 'computing/worker'].map((name) => [basename(name), join(ROOT, `packages/server/src/${name}.ts`)]),
    ),
    outdir: join(out, 'server'),
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    external,
    define: { KEEN_MORTAR_CORE: JSON.stringify(coreIdentity()), KEEN_MORTAR_CLOCK_MOVES: String(moves) },
    minifySyntax: true,
    logLevel: 'warning',
  });
  cpSync(join(ROOT, 'packages/server/migrations'), join(out, 'migrations'), { recursive: true });
  cpSync(join(ROOT, 'demo'), join(out, 'demo'), { recursive: true, filter: (from) => !from.endsWith('.ts') });
}

/** Text files of the page beside themselves in their smallest form: pressed once here, not at each request. */
async function press(folder) {
  const files = [...filesUnder(folder)].filter((file) => /\.(js|css|svg|json)$/.test(file));
  await Promise.all(files.map(async (file) => writeFileSync(`${file}.br`, await brotli(readFileSync(file)))));
}

/** Builds when sources changed. Aside first, swapped in when good: a failed build leaves the old one. */
export async function buildIfChanged() {
  const now = fingerprint();
  const stamp = join(DIST, 'fingerprint');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return 'nothing changed';
  const out = `${DIST}.new`;
  rmSync(out, { recursive: true, force: true });
  mkdirSync(out, { recursive: true });
  await buildServer(out);
  await run('npx', ['ng', 'build', '--output-path', join(out, 'web'), '--define', `KEEN_MORTAR_CORE=${JSON.stringify(coreIdentity())}`], {
    cwd: join(ROOT, 'packages/web'),
    env: { ...process.env, NG_CLI_ANALYTICS: 'false' },
  });
  await press(join(out, 'web/browser'));
  writeFileSync(join(out, 'fingerprint'), now);
  rmSync(DIST, { recursive: true, force: true });
  renameSync(out, DIST);
  return 'built';
}
