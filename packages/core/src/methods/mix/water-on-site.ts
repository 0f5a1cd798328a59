import { brief, exact } from '../../numbers/exact.js';
import type { System } from '../../units/units.js';
import { momentOf } from '../../time/moment.js';
import { duration } from '../evaluate.js';
import { instant, method, pick, qty, YES_NO, type Run, type Increments } from '../definition.js';
import { C94 } from './fields.js';
import { CEMENTITIOUS } from './actual-wcm.js';
import { dampAggregates, freeWater, waterMass } from './free-water.js';

type SiteParams = {
  /** At mixing speed, after the water: C94. */
  revolutions: string;
  /** Dosed in steps of: what a driver can set. */
  doses: Record<System, { unit: 'L' | 'gal'; step: string }>;
  increments: Increments;
};

const fields = {
  cementitious: CEMENTITIOUS,
  batched: waterMass('W', 'Water batched'),
  added: waterMass('Wa', 'Water added since'),
  aggregates: dampAggregates({ optional: true }),
  most: qty(
    'ratio',
    'w/cm',
    'Largest w/cm allowed',
    { si: '1', us: '1' },
    { optional: true, possible: { unit: '1', above: '0', most: '2' }, plausible: { unit: '1', least: '0.25', most: '0.8' } },
  ),
  slump: pick('Slump is', { low: 'Below its limit', other: 'Not below it' }),
  once: pick('Water was added already', { no: 'No', yes: 'Yes' }, { usual: 'no' }),
  discharge: pick('Discharge', { none: 'None yet, but the sample', well: 'Well under way' }, { usual: 'none' }),
  allowed: pick('Allowed by whoever the specification names', { yes: 'Yes', no: 'Not yet' }),
  batchedAt: instant('Water met cement at'),
  now: instant('Now'),
  limit: qty(
    'time',
    't',
    'Time limit',
    { si: 'min', us: 'min' },
    {
      optional: true,
      possible: { unit: 'min', above: '0', most: '600' },
      plausible: { unit: 'min', least: '20', most: '300' },
      typical: { text: '90', unit: 'min' },
    },
  ),
} as const;

export const waterOnSite = method({
  id: 'water-on-site',
  title: 'Water on site',
  names: ['water on site', 'may water be added', 'retempering', 'slump too low', 'water that may be added'],
  follows: [C94],
  about: 'Whether water may be added to a load, how much, and until when: slump, w/cm, time, and leave together.',
  fields,
  results: {
    may: { label: 'Water may be added', symbol: 'may', units: { si: '1', us: '1' }, words: YES_NO, main: true },
    amount: { label: 'At most, once', symbol: 'Ws', units: { si: 'L', us: 'gal' }, main: true },
    stands: { label: 'Water in the load', symbol: 'Wl', units: { si: 'L', us: 'gal' }, drawn: true },
    ceiling: { label: 'Water that the largest w/cm leaves', symbol: 'Wm', units: { si: 'L', us: 'gal' }, drawn: true },
    minutes: { label: 'Within the next', symbol: 't', units: { si: 'min', us: 'min' } },
    revolutions: { label: 'Then at mixing speed, revolutions at least', symbol: 'n', units: { si: '1', us: '1' } },
  },
  variants: {
    c94: {
      label: 'once, within w/cm and time, 30 revolutions',
      source: C94,
      params: {
        revolutions: '30',
        doses: { si: { unit: 'L', step: '1' }, us: { unit: 'gal', step: '0.5' } },
        increments: { min: '1' },
      } satisfies SiteParams as SiteParams,
    },
  },
  steps: [
    { text: 'All at one time, before the discharge is well under way; key it on the load at once.' },
    { text: (p) => `At least ${p.revolutions} revolutions at mixing speed, then a new slump: a low slump is raised once only.` },
    { text: 'Keep clear of the turning drum and the chute.', caution: true },
  ],
  example: {
    cementitious: '2525 kg',
    batched: '742 kg',
    added: '0 L',
    aggregates: [
      { name: 'Brackdown sand', batched: '4352 kg', moisture: '5.1 %', absorption: '1.3 %' },
      { name: 'Pellick 19 mm', batched: '6078 kg', moisture: '1.4 %', absorption: '0.9 %' },
    ],
    most: '0.40',
    slump: 'low',
    once: 'no',
    discharge: 'none',
    allowed: 'yes',
    batchedAt: '2026-05-12T07:42:00Z',
    now: '2026-05-12T08:30:00Z',
    limit: '90 min',
  },
  run(r) {
    const { c, x, p, system } = r;
    const dose = p.doses[system];
    const forbidden = forbids(r);
    const left = minutesLeft(r);
    const room = roomFor(r);
    if (left !== null && left < 0) forbidden.push(['water-too-late', { most: limitWords(r) }]);
    if (room !== null && c.value(room).compare(exact(dose.step)) < 0) forbidden.push(['water-no-room', {}]);
    if (forbidden.length > 0) {
      r.says('may', ['no']);
      for (const [code, params] of forbidden) r.note(code, params);
      return;
    }
    if (x.slump === null || x.allowed === null || room === null || left === null) return;
    // Downwards to what can be dosed: never a drop above the limit.
    const whole = c.value(room).div(exact(dose.step)).neg().ceil().neg();
    const amount = c.mul(c.num(whole.toString()), c.num(dose.step));
    r.says('may', ['yes']);
    r.result('amount', c.name('Ws', amount, dose.unit), dose.unit, { [dose.unit]: dose.step });
    r.result('revolutions', c.num(p.revolutions), '1', { '1': '1' });
    if (Number.isFinite(left)) r.result('minutes', c.num(String(Math.floor(left))), 'min', p.increments);
    r.note('water-may', {
      amount: `${brief(c.value(amount), 3)} ${dose.unit}`,
      until: Number.isFinite(left) ? ` Within the next ${Math.floor(left)} min.` : ' No time limit is set.',
      revolutions: p.revolutions,
    });
  },
});

type R<V> = Run<typeof fields, SiteParams, V>;
type No = [
  code: 'water-once' | 'water-discharging' | 'water-not-low' | 'water-not-allowed' | 'water-no-room' | 'water-too-late',
  params: Readonly<Record<string, string>>,
];

/** What stands in the way, apart from w/cm and time. */
function forbids<V>(r: R<V>): No[] {
  const { x } = r;
  for (const id of ['slump', 'allowed'] as const) if (x[id] === null) r.missing(id);
  const no: No[] = [];
  if (x.slump === 'other') no.push(['water-not-low', {}]);
  if (x.once === 'yes') no.push(['water-once', {}]);
  if (x.discharge === 'well') no.push(['water-discharging', {}]);
  if (x.allowed === 'no') no.push(['water-not-allowed', {}]);
  return no;
}

/** Minutes until the time limit; Infinity where none is set, null while a time is missing. */
function minutesLeft<V>(r: R<V>): number | null {
  const limit = r.have('limit', 'min');
  if (limit === null) return Infinity;
  const [from, now] = [momentOf(r.x.batchedAt), momentOf(r.x.now)];
  if (from === null) r.missing('batchedAt');
  if (now === null) r.missing('now');
  return from === null || now === null ? null : r.c.value(limit).valueOf() - (now - from) / 60_000;
}

const limitWords = <V>(r: R<V>): string => {
  const limit = r.have('limit', 'min');
  return limit === null ? '' : duration(Math.round(r.c.value(limit).valueOf() * 60));
};

/** Water up to the largest w/cm, in the unit of the dose: Wm − Wl = most·C − (W + Wa + free water). */
function roomFor<V>(r: R<V>): V | null {
  const { c, x, p, system } = r;
  const most = r.have('most', '1');
  if (most === null) {
    r.note('water-unlimited');
    r.missing('most');
  }
  const [cementitious, batched, added] = [r.need('cementitious', 'kg'), r.need('batched', 'kg'), r.need('added', 'kg')];
  const list = (x.aggregates ?? []).map((row, i) => ({
    known: row.moisture !== null && row.absorption !== null,
    batched: r.inRow('aggregates', i, 'batched', 'kg', 'B'),
  }));
  const parts = list.flatMap(({ known, batched: damp }, i) => {
    const [moisture, a] = known
      ? [r.inRow('aggregates', i, 'moisture', '%', 'p'), r.inRow('aggregates', i, 'absorption', '%', 'a')]
      : [null, null];
    return damp === null || moisture === null || a === null ? [] : [{ batched: damp, p: moisture, a }];
  });
  if (parts.length < list.length || list.length === 0) r.note('water-moisture-unknown');
  if (most === null || cementitious === null || batched === null || added === null) return null;
  const free = c.name('F', freeWater(c, parts), 'kg');
  const stands = c.name('Wl', c.sum([batched, added, free]), 'kg');
  const ceiling = c.name('Wm', c.mul(most, cementitious), 'kg');
  const { unit, step } = p.doses[system];
  // A kilogram of water is a litre; a US gallon is 3.785411784 L.
  const dosed = (mass: V): V => (unit === 'L' ? mass : c.div(mass, c.num('3.785411784')));
  r.result('stands', dosed(stands), unit, { [unit]: step });
  r.result('ceiling', dosed(ceiling), unit, { [unit]: step });
  return dosed(c.name('room', c.sub(ceiling, stands), 'kg'));
}
