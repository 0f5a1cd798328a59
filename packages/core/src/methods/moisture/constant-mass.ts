import { brief, exact, type Exact } from '../../numbers/exact.js';
import type { Calc } from '../calc.js';
import { method, qty, rows, type Citation } from '../definition.js';
import { duration } from '../evaluate.js';

const C566: Citation = { designation: 'ASTM C566', edition: '2019' };
const T84: Citation = { designation: 'AASHTO T 84', edition: '2022' };

type DryingParams = {
  /** Largest loss over an interval: in g, or in % of the earlier mass; none where the time in the oven alone decides. */
  most: { kind: 'grams' | 'per-cent'; value: string } | null;
  firstMinutes: string;
  intervalMinutes: string;
};

const STATES = { constant: 'at constant mass', not_yet: 'still losing water', wrong: 'went up: find out why' } as const;

export const constantMass = method({
  id: 'constant-mass',
  on: ['field-sample', 'portion'],
  kit: 'balance',
  uses: ['oven'],
  title: 'Drying to constant mass',
  names: ['constant mass', 'drying', 'oven', 'oven-dry'],
  follows: [C566, T84],
  about:
    'Weighings of a sample in the oven, until the loss over an interval is small enough. A mass that went up is never constant: something is wrong.',
  panel: 'drying',
  fields: {
    track: rows('Weighings', {
      minute: qty('time', 't', 'Minutes in the oven', { si: 'min', us: 'min' }, { possible: { unit: 'min', least: '0', most: '20000' } }),
      mass: qty('mass', 'm', 'Mass', { si: 'g', us: 'g' }, { possible: { unit: 'g', above: '0', most: '500000' } }),
    }),
  },
  results: {
    state: { label: 'State', symbol: 'state', units: { si: '1', us: '1' }, words: STATES, main: true },
    loss: { label: 'Loss over the last interval', symbol: 'Δm', units: { si: 'g', us: 'g' } },
    lossShare: { label: 'Loss in % of the mass before', symbol: 'Δm/m', units: { si: '%', us: '%' } },
    estimate: { label: 'Constant at about', symbol: 't_c', units: { si: 'min', us: 'min' } },
    next: { label: 'Next weighing not before', symbol: 't', units: { si: 'min', us: 'min' } },
  },
  variants: {
    rel_0_1_pct: {
      label: 'at most 0.1 % of the mass',
      source: C566,
      params: {
        most: { kind: 'per-cent', value: '0.1' },
        firstMinutes: '60',
        intervalMinutes: '30',
      } satisfies DryingParams as DryingParams,
    },
    abs_0_1_g: {
      label: 'at most 0.1 g',
      source: T84,
      params: { most: { kind: 'grams', value: '0.1' }, firstMinutes: '60', intervalMinutes: '30' } satisfies DryingParams as DryingParams,
    },
    overnight: {
      label: 'overnight, 15 h and more, without checks: common, weaker',
      source: C566,
      params: { most: null, firstMinutes: '900', intervalMinutes: '30' } satisfies DryingParams as DryingParams,
    },
  },
  steps: [
    {
      text: (p) =>
        `110 ± 5 °C (230 ± 9 °F). First weighing after ${duration(Number(p.firstMinutes) * 60)}${p.most === null ? '.' : `, then at least ${p.intervalMinutes} min apart.`}`,
    },
    { text: 'Cool the same way each time: fine about an hour, coarse 1 to 3 h.' },
    { text: 'Oven and pans are at 110 °C: gloves.', caution: true },
  ],
  example: {
    track: [
      { minute: '60 min', mass: '2431.2 g' },
      { minute: '90 min', mass: '2419.6 g' },
      { minute: '120 min', mass: '2415.1 g' },
    ],
  },
  run(r) {
    const { c, x, p } = r;
    const track = (x.track ?? []).map((_row, i) => ({
      minute: r.inRow('track', i, 'minute', 'min', 't'),
      mass: r.inRow('track', i, 'mass', 'g', 'm'),
    }));
    if (track.length === 0) {
      r.missing('track');
      return;
    }
    const complete = track.flatMap(({ minute, mass }) => (minute === null || mass === null ? [] : [{ minute, mass }]));
    const disorder = complete.findIndex((w, i) => i > 0 && c.value(w.minute).compare(c.value(complete[i - 1]!.minute)) <= 0);
    if (disorder > 0) return r.refuse('times-in-disorder', `track.${disorder}.minute`);
    const [before, last] = [complete.at(-2), complete.at(-1)];
    if (!last || complete.length < track.length) return;
    const first = c.value(complete[0]!.minute);
    const early = first.compare(exact(p.firstMinutes)) < 0;
    if (early && p.most !== null) r.note('weighed-early', { least: duration(Number(p.firstMinutes) * 60) });
    const interval = exact(p.intervalMinutes);
    const nextAt = p.most === null ? c.num(p.firstMinutes) : c.add(last.minute, c.num(p.intervalMinutes));
    if (p.most === null) {
      const gain = before && c.value(last.mass).sub(c.value(before.mass));
      if (gain && gain.sign() > 0) {
        r.says('state', ['wrong']);
        return r.marks('mass-went-up', { gain: brief(gain, 3) });
      }
      const done = c.value(last.minute).compare(exact(p.firstMinutes)) >= 0;
      r.says('state', [done ? 'constant' : 'not_yet']);
      if (!done) r.result('next', nextAt, 'min');
      return;
    }
    if (!before) {
      r.says('state', ['not_yet']);
      r.result('next', nextAt, 'min');
      return;
    }
    const gap = c.value(last.minute).sub(c.value(before.minute));
    const loss = c.name('Δm', c.sub(before.mass, last.mass), 'g');
    const share = c.name('Δm/m', c.div(c.mul(c.num('100'), loss), before.mass), '%');
    r.result('loss', loss, 'g');
    r.result('lossShare', share, '%');
    const state = judge(c.value(loss), c.value(share), gap, interval, p.most);
    r.says('state', [state]);
    if (state === 'wrong') r.marks('mass-went-up', { gain: brief(c.value(loss).neg(), 3) });
    if (state !== 'not_yet') return;
    r.result('next', nextAt, 'min');
    const estimate = constantAt(c, complete, p);
    if (estimate !== null) r.result('estimate', c.name('t_c', estimate, 'min'), 'min', { min: '5' });
  },
});

/**
 * When the loss over an interval will be small enough, if the rate goes on falling as it fell
 * between the last two intervals (exponentially, as drying does near its end). Null while the rate
 * does not fall, or with fewer than three weighings.
 */
function constantAt<V>(c: Calc<V>, track: readonly { minute: V; mass: V }[], p: DryingParams): V | null {
  const [a, b, last] = track.slice(-3);
  if (!a || !b || !last || p.most === null) return null;
  const rate = (from: typeof a, to: typeof a): V => c.div(c.sub(from.mass, to.mass), c.sub(to.minute, from.minute));
  const [r1, r2] = [rate(a, b), rate(b, last)];
  if (c.value(r2).sign() <= 0 || c.value(r1).compare(c.value(r2)) <= 0) return null;
  // The middles of the two intervals are half of (last − a) apart.
  const decay = c.div(c.apply('ln', c.div(r1, r2)), c.div(c.sub(last.minute, a.minute), c.num('2')));
  const most = p.most.kind === 'grams' ? c.num(p.most.value) : c.div(c.mul(c.num(p.most.value), last.mass), c.num('100'));
  // Loss per interval, at the rate of the middle of the last one.
  const lossNow = c.mul(r2, c.num(p.intervalMinutes));
  const middle = c.div(c.add(b.minute, last.minute), c.num('2'));
  const next = c.add(last.minute, c.num(p.intervalMinutes));
  if (c.value(lossNow).compare(c.value(most)) <= 0) return next;
  const at = c.sum([middle, c.div(c.apply('ln', c.div(lossNow, most)), decay), c.div(c.num(p.intervalMinutes), c.num('2'))]);
  return c.value(at).compare(c.value(next)) < 0 ? next : at;
}

function judge(
  loss: Exact,
  share: Exact,
  gap: Exact,
  interval: Exact,
  most: NonNullable<DryingParams['most']>,
): 'constant' | 'not_yet' | 'wrong' {
  if (loss.compare(0) < 0) return 'wrong';
  const small = (most.kind === 'grams' ? loss : share).compare(exact(most.value)) <= 0;
  return small && gap.compare(interval) >= 0 ? 'constant' : 'not_yet';
}
