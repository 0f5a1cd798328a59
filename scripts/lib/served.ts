import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const ROOT = join(import.meta.dirname, '../..');

/** The whole application with its demonstration, on data of its own that go when it ends. */
export async function servedDemo(port: number): Promise<{ readonly url: string; readonly end: () => Promise<void> }> {
  const data = mkdtempSync(join(tmpdir(), 'km-served-'));
  const app = spawn(process.execPath, ['scripts/start.mjs'], {
    cwd: ROOT,
    env: { ...process.env, KEEN_MORTAR_DATA: data, KEEN_MORTAR_PORT: String(port) },
  });
  await new Promise<void>((resolve, reject) => {
    app.stdout.on('data', (chunk) => String(chunk).includes('ready after') && resolve());
    app.once('exit', (code) => reject(new Error(`start ended with ${code}`)));
  });
  return {
    url: `http://127.0.0.1:${port}`,
    end: async () => {
      const gone = new Promise((resolve) => app.once('exit', resolve));
      app.kill('SIGTERM');
      await gone;
      rmSync(data, { recursive: true, force: true });
    },
  };
}
