/* npm run test:clock: unit suites of core and web on other days than today, in another order each time. */
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ROOT } from './lib/paths.mjs';
import { run } from './lib/run.mjs';

const MINUTE = 60_000;
const DAY = 24 * 60;
const AHEAD = pathToFileURL(join(ROOT, 'scripts/lib/clock-ahead.mjs')).href;
/** A zone that has summer time. */
const ZONE = 'Europe/Berlin';

const now = Date.now();
const inZone = (ms, options) => new Intl.DateTimeFormat('en-GB', { timeZone: ZONE, ...options }).format(ms);
/** Minutes until something is first so, looked for every ten minutes for a year. */
const until = (isSo) => {
  const step = 10;
  for (let minutes = step; minutes < 366 * DAY; minutes += step) if (isSo(now + minutes * MINUTE)) return minutes;
  throw new Error('it is never so');
};
const offset = (ms) => inZone(ms, { timeZoneName: 'longOffset' }).split('GMT')[1];

/** Days and hours on which a suite that knows today would fail. */
export const MOMENTS = [
  ['in 40 days', 40 * DAY],
  ['in 7 months', 215 * DAY],
  ['half an hour before the clocks change', until((ms) => offset(ms) !== offset(now)) - 30],
  ['on a Saturday night', until((ms) => /^Sat,? 23:4/.test(inZone(ms, { weekday: 'short', hour: '2-digit', minute: '2-digit' })))],
];

/** In what a command of Node finds itself so many minutes ahead. */
export const ahead = (minutes) => ({ TZ: ZONE, AHEAD_MINUTES: String(minutes), NODE_OPTIONS: `--import ${AHEAD} --import tsx` });

const core = (minutes) => run('npx', ['jasmine', '--config=packages/core/jasmine.json'], { env: { ...process.env, ...ahead(minutes) } });

const web = (minutes) =>
  run('npx', ['ng', 'test', '--configuration=ahead', '--define', `AHEAD_MINUTES=${minutes}`], {
    cwd: join(ROOT, 'packages/web'),
    env: { ...process.env, TZ: ZONE, NG_CLI_ANALYTICS: 'false' },
  });

if (process.argv[1] === import.meta.filename) {
  let failed = 0;
  for (const [words, minutes] of MOMENTS) {
    for (const [name, suite] of Object.entries({ core, web })) {
      await suite(minutes).then(
        (said) => console.log(`${name} ${words}: passed (${/seed (\d+)/.exec(said)?.[1] ?? 'in its order'})`),
        (error) => ((failed += 1), console.log(`${name} ${words}: FAILED\n${error.output ?? error}`)),
      );
    }
  }
  process.exitCode = failed > 0 ? 1 : 0;
}
