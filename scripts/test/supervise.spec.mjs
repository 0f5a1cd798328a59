import { spawn } from 'node:child_process';
import { portFrom } from '../lib/paths.mjs';
import { supervise, watchFor } from '../lib/supervise.mjs';
import { Trouble } from '../lib/trouble.mjs';
import { wait } from '../lib/run.mjs';

/** A part that lives until it is ended. */
function part() {
  const child = spawn(process.execPath, ['-e', 'setInterval(() => {}, 1000)'], { stdio: 'ignore' });
  const ended = new Promise((resolve) => child.once('exit', (code, signal) => resolve(signal ?? code)));
  return { pid: child.pid, ended, answers: () => true, stop: async () => (child.kill(), await ended) };
}

const until = async (test) => {
  for (let i = 0; i < 200 && !test(); i++) await wait(20);
  expect(test()).toBeTrue();
};

describe('supervision', () => {
  it('starts again what was killed, after a pause that grows, and says so each time', async () => {
    const said = [];
    const starts = [];
    const start = async () => {
      starts.push(Date.now());
      if (starts.length === 2) throw new Trouble('The port is taken.');
      return part();
    };
    const database = await supervise('The database', start, { say: (text) => said.push(text), pauses: [0.05, 0.3] });
    const first = database.part().pid;
    process.kill(first, 'SIGKILL');
    await until(() => said.some((text) => text.includes('runs again')));
    expect(database.part().pid).not.toBe(first);
    expect(said[0]).toContain('The database ended (SIGKILL). It is started again in 0.05 s');
    expect(said).toContain('The port is taken.');
    expect(starts[2] - starts[1]).toBeGreaterThan(250);
    await database.stop();
    await wait(400);
    expect(starts.length).toBe(3);
  });

  it('ends and starts again what is frozen, and not what answers', async () => {
    const said = [];
    let frozen = false;
    const database = await supervise('The database', async () => ({ ...part(), answers: async () => !frozen }), {
      say: (text) => said.push(text),
      pauses: [0.05],
    });
    const watch = watchFor('The database', database.part, { say: (text) => said.push(text), seconds: 0.05, misses: 4 });
    const first = database.part().pid;
    await wait(400);
    expect(database.part().pid).toBe(first);
    frozen = true;
    await until(() => said.some((text) => text.includes('frozen')));
    frozen = false;
    await until(() => database.part().pid !== first);
    await watch.stop();
    await database.stop();
  });
});

describe('settings', () => {
  it('a bad port is one sentence', () => {
    for (const bad of ['abc', '0', '70000', '43.5'])
      expect(() => portFrom(bad)).toThrowError(Trouble, /must be a whole number from 1 to 65535/);
    expect([portFrom('5000'), portFrom(undefined)]).toEqual([5000, 4310]);
  });
});
