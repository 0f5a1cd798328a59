import { wait } from './run.mjs';
import { inWords } from './trouble.mjs';

/** Pauses before each new start, s; the last one stays. */
const PAUSES = [1, 2, 5, 10, 30];
/** After so long without a fault the pauses begin anew, ms. */
const SOUND_MS = 60_000;

/**
 * Keeps a part running: when it ends by itself it is started again, after a pause that grows while it
 * keeps failing, and each time somebody reads why.
 * @param start resolves to a part with `ended` and `stop`
 * @returns the part as it runs now, and `stop`, after which it is not started again
 */
export async function supervise(name, start, { say = console.error, pauses = PAUSES } = {}) {
  let part = await start();
  let stopping = false;
  const watch = async () => {
    for (let failures = 0; ;) {
      const since = Date.now();
      const how = await part.ended;
      if (stopping) return;
      failures = Date.now() - since > SOUND_MS ? 1 : failures + 1;
      for (let up = false; !up && !stopping;) {
        const pause = pauses[Math.min(failures, pauses.length) - 1];
        say(`${name} ended (${how}). It is started again in ${pause} s; everything that was kept is safe.`);
        await wait(pause * 1000);
        if (stopping) return;
        try {
          part = await start();
          up = true;
          say(`${name} runs again.`);
        } catch (error) {
          failures++;
          say(inWords(error));
        }
      }
      if (stopping) {
        await part.stop();
        return;
      }
    }
  };
  const watched = watch();
  return {
    part: () => part,
    stop: async () => {
      stopping = true;
      await part.stop();
      await Promise.race([watched, wait(100)]);
    },
  };
}

/** How often a part is looked at, and how many looks in a row it may miss, s. */
const LOOK_S = 5;
const MISSES = 6;

/** Looks whether a running part still answers; one that does not for long is ended, and so started again. */
export function watchFor(name, part, { say = console.error, seconds = LOOK_S, misses = MISSES } = {}) {
  let missed = 0;
  let busy = false;
  const timer = setInterval(async () => {
    if (busy) return;
    busy = true;
    const { answers, pid } = part();
    if (await answers()) missed = 0;
    else if (++missed === 2) say(`${name} does not answer. What is keyed meanwhile waits on the devices.`);
    if (missed >= misses) {
      say(`${name} is frozen: it is ended and started again.`);
      missed = 0;
      try {
        process.kill(pid, 'SIGKILL');
      } catch {
        // It has ended by itself meanwhile.
      }
    }
    busy = false;
  }, seconds * 1000);
  timer.unref();
  return { stop: async () => clearInterval(timer) };
}
