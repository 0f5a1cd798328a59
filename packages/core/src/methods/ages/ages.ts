import { exact } from '../../numbers/exact.js';
import { AGE_TOLERANCES } from '../../time/age-tolerances.js';
import { momentOf } from '../../time/moment.js';
import { instant, method, qty, rows, YES_NO, type Citation, type Given } from '../definition.js';

const C39: Citation = { designation: 'ASTM C39/C39M', edition: '2024', part: 'permissible age tolerances' };
const T84: Citation = { designation: 'AASHTO T 84', edition: '2022', part: 'soaking' };
const C128: Citation = { designation: 'ASTM C128', edition: '2022', part: 'soaking' };

const HOUR = 3_600_000;

/** Which of the specimens of a set belong together. */
export const AGE = qty(
  'time',
  't',
  'Age of those that are broken together',
  { si: 'd', us: 'd' },
  { optional: true, hint: 'all of the set where it is left empty', possible: { unit: 'd', above: '0', most: '36500' } },
);

/** A strength for each specimen of a set that was broken at that age. */
export const strengthOfEach = (label: string, takes: Given) =>
  rows(
    label,
    { strength: qty('stress', 'f', 'Strength', { si: 'MPa', us: 'psi' }, { takes, possible: { unit: 'MPa', above: '0', most: '300' } }) },
    { made: { same: { of: 'age', as: 'specimen.age' }, unless: 'specimen.left' } },
  );

type AgeParams = { tolerances: readonly { days: string; hours: string }[] };

/** ISO text in UTC to the second: `2026-04-20T10:56:00Z`. */
const utc = (ms: number): string => new Date(ms).toISOString().replace('.000Z', 'Z');

export const ageWindow = method({
  id: 'age-window',
  title: 'Age at test',
  names: ['age', 'age window', '28 days', 'due date', 'break date'],
  follows: [C39],
  about:
    'When a specimen is due, within what window it may be broken, and how far off it was. In absolute time: a clock change moves nothing.',
  fields: {
    age: qty('time', 'age', 'Age', { si: 'd', us: 'd' }, { possible: { unit: 'd', above: '0', most: '1000' } }),
    cast: instant('Cast at'),
    broken: instant('Broken at', { optional: true }),
  },
  results: {
    due: { label: 'Due', symbol: 'due', units: { si: '1', us: '1' }, moments: true, main: true },
    from: { label: 'Not before', symbol: 'from', units: { si: '1', us: '1' }, moments: true },
    to: { label: 'Not after', symbol: 'to', units: { si: '1', us: '1' }, moments: true },
    off: { label: 'Off the age', symbol: 'off', units: { si: 'h', us: 'h' } },
    inWindow: { label: 'Within the window', symbol: 'within', units: { si: '1', us: '1' }, words: YES_NO },
  },
  variants: {
    c39: {
      label: '24 h ± 0.5 h to 90 d ± 2 d',
      source: C39,
      params: {
        tolerances: AGE_TOLERANCES,
      } satisfies AgeParams as AgeParams,
    },
  },
  steps: [{ text: 'Counted from casting to the break, in absolute time; a closed day may fall inside the window.' }],
  example: { age: '28 d', cast: '2026-05-12T08:20:00Z', broken: '2026-06-09T09:05:00Z' },
  run(r) {
    const { c, x, p } = r;
    const age = r.need('age', 'd');
    const cast = momentOf(x.cast);
    if (cast === null) r.missing('cast');
    if (age === null || cast === null) return;
    const tolerance = p.tolerances.find(({ days }) => c.value(age).equals(exact(days)));
    if (!tolerance) return r.refuse('no-age-window', 'age', { ages: p.tolerances.map(({ days }) => days).join(', ') });
    const due = cast + Number(tolerance.days) * 24 * HOUR;
    const room = Number(tolerance.hours) * HOUR;
    r.says('due', [utc(due)]);
    r.says('from', [utc(due - room)]);
    r.says('to', [utc(due + room)]);
    const broken = momentOf(x.broken);
    if (broken === null) return;
    if (broken < cast) return r.refuse('broken-before-cast', 'broken');
    const off = c.name('off', c.div(c.num(String((broken - due) / 1000)), c.num('3600')), 'h');
    r.result('off', off, 'h');
    const within = Math.abs(broken - due) <= room;
    r.says('inWindow', [within ? 'yes' : 'no']);
    if (!within) r.marks('outside-age-window', { days: tolerance.days, hours: tolerance.hours });
  },
});

type SoakParams = { leastHours: number; mostHours: number };

export const soakStart = method({
  id: 'soak-start',
  title: 'When a soak must start',
  names: ['soak', 'soaking', 'plan a soak'],
  follows: [T84, C128],
  about: 'Counted back from the time at which it is to be drained.',
  fields: { end: instant('To be drained at') },
  results: {
    earliest: { label: 'Into the water not before', symbol: 'from', units: { si: '1', us: '1' }, moments: true },
    latest: { label: 'Into the water not after', symbol: 'to', units: { si: '1', us: '1' }, moments: true, main: true },
  },
  variants: {
    aashto: { label: '15 to 19 h', source: T84, params: { leastHours: 15, mostHours: 19 } satisfies SoakParams as SoakParams },
    astm: { label: '24 ± 4 h', source: C128, params: { leastHours: 20, mostHours: 28 } satisfies SoakParams as SoakParams },
  },
  steps: [{ text: 'Too short: leave it in. Too long: the result carries a remark.' }],
  example: { end: '2026-05-13T07:00:00Z' },
  run(r) {
    const end = momentOf(r.x.end);
    if (end === null) return r.missing('end');
    r.says('earliest', [utc(end - r.p.mostHours * HOUR)]);
    r.says('latest', [utc(end - r.p.leastHours * HOUR)]);
  },
});
