import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './paths.mjs';
import { run } from './run.mjs';
import { Trouble } from './trouble.mjs';

const LEAST = [20, 19];

export function checkNode(version = process.versions.node) {
  const [major, minor] = version.split('.').map(Number);
  if (major < LEAST[0] || (major === LEAST[0] && minor < LEAST[1]) || major > 22) {
    throw new Trouble(
      `Keen Mortar needs Node ${LEAST.join('.')} or later, up to 22; this is ${version}. Install one of these and start again.`,
    );
  }
}

/** npm packages from the lock file; again only when the lock file has changed. */
export async function installPackages() {
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  const stamp = join(ROOT, 'node_modules', '.keen-mortar-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return 'as in the lock file';
  await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { show: true });
  writeFileSync(stamp, lock);
  return 'installed';
}

const which = async (program) => {
  const found = await run('sh', ['-c', `command -v ${program} || ls /usr/sbin/${program} 2>/dev/null`]).catch(() => '');
  return found.trim();
};

/** Debian packages by the program that shows them to be there. */
const DEBIAN = { 'mariadb-server': 'mariadbd', chromium: 'chromium' };

/** Installs what is missing: as root or with password-less sudo; otherwise says the one line to run. */
export async function installDebian(packages) {
  const missing = [];
  for (const name of packages) if (!(await which(DEBIAN[name]))) missing.push(name);
  if (missing.length === 0) return 'there';
  const line = `apt-get update && apt-get install -y ${missing.join(' ')}`;
  const root = process.getuid?.() === 0;
  const sudo =
    !root &&
    (await which('sudo')) &&
    (await run('sudo', ['-n', 'true']).then(
      () => true,
      () => false,
    ));
  if (!root && !sudo) {
    process.stdout.write(`    Run this in another window; the start goes on by itself:\n      sudo sh -c '${line}'\n`);
    for (;;) {
      await new Promise((resolve) => setTimeout(resolve, 2000));
      const found = await Promise.all(missing.map((name) => which(DEBIAN[name])));
      if (found.every(Boolean)) return 'there now';
    }
  }
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const quiet = `apt-get update -qq && apt-get install -y -qq --no-install-recommends ${missing.join(' ')}`;
  // Debian's package starts a system service of its own; ours runs beside it, on its own port.
  await run(root ? 'sh' : 'sudo', root ? ['-c', quiet] : ['-n', 'env', 'DEBIAN_FRONTEND=noninteractive', 'sh', '-c', quiet], { env });
  return `installed ${missing.join(', ')}`;
}
