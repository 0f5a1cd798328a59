import { momentOf } from '../../time/moment.js';
import { instant, method, pick, type AnyInputs } from '../definition.js';
import { C157 } from './length-change.js';

const HOUR_MS = 3_600_000;
const DAY = 24;
const WEEK = 7 * DAY;

interface Due {
  readonly what: string;
  /** Counted from water meeting cement, or from the start of drying. */
  readonly from: 'batched' | 'drying';
  readonly hours: number;
  /** Window either side, hours, where the method gives one. */
  readonly within?: number;
  readonly missed?: 'marked' | 'void';
}

type ScheduleParams = {
  /** Total age at which drying starts; none where the prisms stay in water. */
  wetUntilDays: number | null;
  readings: readonly Due[];
};

const after = (what: string, from: 'batched' | 'drying', hours: number): Due => ({ what, from, hours });

const FIRST: readonly Due[] = [
  { what: 'Demold, wipe, mark', from: 'batched', hours: 23.5, within: 0.5, missed: 'marked' },
  { what: 'Initial reading', from: 'batched', hours: 24, within: 0.5, missed: 'void' },
];

const weeks = (from: 'batched' | 'drying'): Due[] => [8, 16, 32, 64].map((n) => after(`${n} weeks`, from, n * WEEK));

const DRYING: readonly Due[] = [...[4, 7, 14, 28].map((n) => after(`${n} days of drying`, 'drying', n * DAY)), ...weeks('drying')];

const MISSED = { marked: 'marked', void: 'the set is void' } as const;

/** How a set of prisms is kept, by the variants of its schedule. */
export const REGIMES = {
  air: '28 days in lime water, then air',
  water: 'lime water throughout',
  hybrid: '7 days wet, then air to 35 days of age',
} as const;

/** What is read when, under each. */
export const SCHEDULES: Readonly<Record<keyof typeof REGIMES, ScheduleParams>> = {
  air: {
    wetUntilDays: 28,
    readings: [...FIRST, after('28 days, drying starts', 'batched', 28 * DAY), ...DRYING],
  },
  water: {
    wetUntilDays: null,
    readings: [...FIRST, after('28 days', 'batched', 28 * DAY), ...weeks('batched')],
  },
  hybrid: {
    wetUntilDays: 7,
    readings: [...FIRST, after('7 days, drying starts', 'batched', 7 * DAY), after('28 days of drying', 'drying', 28 * DAY)],
  },
};

export const regimeOf = (facts: AnyInputs): keyof typeof SCHEDULES =>
  ((facts as Readonly<Record<string, unknown>>)['regime'] as keyof typeof SCHEDULES | undefined) ?? 'air';

export const lengthSchedule = method({
  id: 'length-schedule',
  title: 'Length change: when to read',
  names: ['length change schedule', 'shrinkage schedule', 'prism readings', 'regime'],
  follows: [C157],
  about: 'Every moment of a set of prisms under its regime, from the minute that water met cement.',
  fields: {
    batched: instant('Water met cement'),
    bars: pick('Prisms', { prisms: '3 or 4 in prisms', bars: '1 in mortar bars' }, { usual: 'prisms' }),
  },
  results: {
    what: { label: 'What', symbol: 'what', units: { si: '1', us: '1' }, main: true },
    due: { label: 'Due', symbol: 'due', units: { si: '1', us: '1' }, moments: true },
    from: { label: 'Not before', symbol: 'from', units: { si: '1', us: '1' }, moments: true },
    until: { label: 'Not after', symbol: 'until', units: { si: '1', us: '1' }, moments: true },
    missed: { label: 'If missed', symbol: 'missed', units: { si: '1', us: '1' }, words: MISSED },
    soak: { label: 'In lime water before the initial reading, at least', symbol: 't', units: { si: 'min', us: 'min' } },
  },
  variants: {
    air: { label: REGIMES.air, source: C157, params: SCHEDULES.air },
    water: { label: REGIMES.water, source: C157, params: SCHEDULES.water },
    hybrid: { label: REGIMES.hybrid, source: C157, params: SCHEDULES.hybrid },
  },
  steps: [
    { text: 'Moist room, covered against drips; one end up for all readings; screws of the studs eased once finished.' },
    { text: 'Air: 50 ± 4 % RH, 23 ± 2 °C (73 ± 3 °F), at least 25 mm (1 in) clear all round.' },
    { text: 'Lime water burns skin and eyes: gloves.', caution: true },
  ],
  example: { batched: '2026-05-12T07:42:00Z', bars: 'prisms' },
  run(r) {
    const { c, x, p } = r;
    const batched = momentOf(x.batched);
    if (batched === null) return r.missing('batched');
    const drying = p.wetUntilDays === null ? null : batched + p.wetUntilDays * DAY * HOUR_MS;
    const due = p.readings.map((d) => (d.from === 'batched' ? batched : drying!) + d.hours * HOUR_MS);
    const iso = (ms: number): string => new Date(ms).toISOString();
    r.says(
      'what',
      p.readings.map((d) => d.what),
    );
    r.says('due', due.map(iso));
    // No window is published for the later readings: they are due at their age.
    r.says(
      'from',
      p.readings.map((d, i) => (d.within === undefined ? '' : iso(due[i]! - d.within * HOUR_MS))),
    );
    r.says(
      'until',
      p.readings.map((d, i) => (d.within === undefined ? '' : iso(due[i]! + d.within * HOUR_MS))),
    );
    r.says(
      'missed',
      p.readings.map((d) => d.missed ?? 'marked'),
    );
    r.result('soak', c.num(x.bars === 'bars' ? '15' : '30'), 'min');
  },
});
