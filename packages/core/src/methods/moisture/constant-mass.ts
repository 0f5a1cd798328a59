import { exact, shown, type Exact } from '../../numbers/exact.js';
import { method, qty, rows, type Citation } from '../definition.js';

const C566: Citation = { designation: 'ASTM C566', edition: '2019' };
const T84: Citation = { designation: 'AASHTO T 84', edition: '2022' };

type DryingParams = {
  /** Largest loss over an interval: in g, or in % of the earlier mass. */
  most: { kind: 'grams' | 'per-cent'; value: string };
  firstMinutes: string;
  intervalMinutes: string;
};

export const constantMass = method({
  id: 'constant-mass',
  title: 'Drying to constant mass',
  names: ['constant mass', 'drying', 'oven', 'oven-dry'],
  follows: [C566, T84],
  about:
    'Weighings of a sample in the oven, until the loss over an interval is small enough. A mass that went up is never constant: something is wrong.',
  fields: {
    track: rows('Weighings', {
      minute: qty('time', 't', 'Minutes in the oven', { si: 'min', us: 'min' }, { possible: { unit: 'min', least: '0', most: '20000' } }),
      mass: qty('mass', 'm', 'Mass', { si: 'g', us: 'g' }, { possible: { unit: 'g', above: '0', most: '500000' } }),
    }),
  },
  results: {
    state: { label: 'State', symbol: 'state', units: { si: '1', us: '1' }, main: true },
    loss: { label: 'Loss over the last interval', symbol: 'Δm', units: { si: 'g', us: 'g' } },
    lossShare: { label: 'the same, of the earlier mass', symbol: 'Δm/m', units: { si: '%', us: '%' } },
    next: { label: 'Next weighing not before', symbol: 't', units: { si: 'min', us: 'min' } },
  },
  variants: {
    rel_0_1_pct: {
      label: 'at most 0.1 % of the mass',
      source: C566,
      params: { most: { kind: 'per-cent', value: '0.1' }, firstMinutes: '60', intervalMinutes: '30' } as DryingParams,
    },
    abs_0_1_g: {
      label: 'at most 0.1 g',
      source: T84,
      params: { most: { kind: 'grams', value: '0.1' }, firstMinutes: '60', intervalMinutes: '30' } as DryingParams,
    },
  },
  steps: [
    { text: '110 ± 5 °C. First weighing after an hour, then at least 30 min apart.' },
    { text: 'Cool the same way each time: fine about an hour, coarse 1 to 3 h.' },
    { text: 'Oven and pans are at 110 °C: gloves.', caution: true },
  ],
  run(r) {
    const { c, x, p } = r;
    const track = (x.track ?? []).map((_row, i) => ({
      minute: r.inRow('track', i, 'minute', 'min', `t${i + 1}`),
      mass: r.inRow('track', i, 'mass', 'g', `m${i + 1}`),
    }));
    if (track.length === 0) {
      r.missing('track');
      return;
    }
    const last = track.at(-1);
    const before = track.at(-2);
    if (!last || last.minute === null || last.mass === null) return;
    const interval = exact(p.intervalMinutes);
    const nextAt = c.value(last.minute).add(interval);
    if (!before) {
      r.says('state', ['not_yet']);
      r.result('next', c.num(shown(nextAt, 20)), 'min');
      return;
    }
    if (before.minute === null || before.mass === null) return;
    const gap = c.value(last.minute).sub(c.value(before.minute));
    if (gap.compare(0) <= 0) return r.refuse('times-in-disorder', `track.${track.length - 1}.minute`);
    const loss = c.name('Δm', c.sub(before.mass, last.mass), 'g');
    const share = c.name('Δm/m', c.div(c.mul(c.num('100'), loss), before.mass), '%');
    r.result('loss', loss, 'g');
    r.result('lossShare', share, '%');
    const state = judge(c.value(loss), c.value(share), gap, interval, p);
    r.says('state', [state]);
    if (state === 'wrong') r.marks('mass-went-up', { gain: shown(c.value(loss).neg()) });
    if (state === 'not_yet') r.result('next', c.num(shown(nextAt, 20)), 'min');
  },
});

function judge(loss: Exact, share: Exact, gap: Exact, interval: Exact, p: DryingParams): 'constant' | 'not_yet' | 'wrong' {
  if (loss.compare(0) < 0) return 'wrong';
  const small = (p.most.kind === 'grams' ? loss : share).compare(exact(p.most.value)) <= 0;
  return small && gap.compare(interval) >= 0 ? 'constant' : 'not_yet';
}
