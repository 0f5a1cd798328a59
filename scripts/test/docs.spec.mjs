import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { ROOT } from '../lib/paths.mjs';
import { run } from '../lib/run.mjs';

const COPIED = [
  'package.json',
  'tsconfig.base.json',
  'tsconfig.lint.json',
  'eslint.config.mjs',
  '.prettierrc.json',
  '.prettierignore',
  'docs',
  'packages/core',
];

/** The page for newcomers, followed to the letter in a folder of its own: nothing of the house is touched. */
describe('docs/adding-a-method.md', () => {
  let folder;
  const inFolder = (command, ...args) => run(command, args, { cwd: folder, env: { ...process.env, NODE_OPTIONS: '' } });

  beforeAll(() => {
    folder = mkdtempSync(join(tmpdir(), 'km-docs-'));
    for (const name of COPIED) cpSync(join(ROOT, name), join(folder, name), { recursive: true });
    symlinkSync(join(ROOT, 'node_modules'), join(folder, 'node_modules'));
  });
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it('leads to a method that passes lint, types and core', async () => {
    const page = readFileSync(join(folder, 'docs/adding-a-method.md'), 'utf8');
    const steps = [...page.matchAll(/(?:In `([^`]+)`, below `([^`]+)`|`([^`\n]+\.ts)`):\n\n```ts\n([\s\S]*?)```/g)];
    expect(steps.length).toBe((page.match(/```ts\n/g) ?? []).length);
    const touched = steps.map(([, edited, below, made, code]) => {
      const path = join(folder, edited ?? made);
      if (made) {
        mkdirSync(dirname(path), { recursive: true });
        writeFileSync(path, code);
      } else {
        const lines = readFileSync(path, 'utf8').split('\n');
        const at = lines.indexOf(below);
        expect(at).withContext(`${edited}: ${below}`).toBeGreaterThanOrEqual(0);
        lines.splice(at + 1, 0, code.replace(/\n$/, ''));
        writeFileSync(path, lines.join('\n'));
      }
      return path;
    });
    await inFolder('npm', 'run', '--silent', 'method-pages');
    await inFolder('npx', 'prettier', '--write', ...new Set(touched));
    await inFolder('npx', 'eslint', ...new Set(touched));
    await inFolder('npx', 'tsc', '-p', 'packages/core', '--noEmit');
    const said = await run('npx', ['jasmine', '--config=packages/core/jasmine.json'], {
      cwd: folder,
      env: { ...process.env, NODE_OPTIONS: '--import tsx' },
    });
    expect(said).toMatch(/\d{3,} specs, 0 failures/);
  }, 180_000);
});
