import { PI } from '../../numbers/constants.js';
import { method, qty, type Citation } from '../definition.js';
import { GUARD } from '../compression/guard.js';
import { judgeRate, latterHalf, rateResult, traceRows, type RateLimits } from './rate.js';

const C39: Citation = { designation: 'ASTM C39/C39M', edition: '2024', part: 'rate of loading' };

/** ASTM C39/C39M-2024, rate of loading: cylinders and cores, through the latter half. */
export const C39_RATE: RateLimits = {
  target: { si: '0.25', us: '35' },
  tolerance: { si: '0.05', us: '7' },
  unit: { si: 'MPa/s', us: 'psi/s' },
  upperShare: '0.5',
  increments: { 'MPa/s': '0.01', 'psi/s': '1' },
};

export const loadingRate = method({
  id: 'loading-rate',
  on: ['specimen'],
  kit: 'machine',
  title: 'Rate from a loading trace',
  names: ['loading trace', 'rate of loading', 'stress rate'],
  follows: [C39],
  about: 'Slope of stress over time, fitted through the latter half of the loading: the first half may be faster.',
  panel: 'trace',
  fields: {
    diameter: qty(
      'length',
      'D',
      'Mean diameter',
      { si: 'mm', us: 'in' },
      {
        possible: { unit: 'mm', least: '1', most: '1000' },
        plausible: { unit: 'mm', least: '40', most: '400' },
        typical: { text: '150', unit: 'mm' },
      },
    ),
    trace: traceRows(),
  },
  results: {
    rate: { ...rateResult(), main: true },
    fittedAt: { label: 'The line runs from and to', symbol: 't', units: { si: 's', us: 's' }, drawn: true },
    fitted: { label: 'Load on the line there', symbol: 'P̂', units: { si: 'kN', us: 'lbf' }, drawn: true },
    points: { label: 'Points in the fit', symbol: 'n', units: { si: '1', us: '1' } },
  },
  variants: {
    c39: {
      label: '0.25 ± 0.05 MPa/s (35 ± 7 psi/s)',
      source: C39,
      params: C39_RATE,
    },
  },
  steps: [{ text: 'The first half may be faster; through the latter half no lever is touched until it breaks.' }, GUARD],
  example: {
    diameter: '101.5 mm',
    trace: '0/0 20/61 40/112 60/155 80/196 100/237 120/278 140/318 148/334'.split(' ').map((point) => {
      const [time, load] = point.split('/');
      return { time: `${time ?? ''} s`, load: `${load ?? ''} kN` };
    }),
  },
  run(r) {
    const { c, p, system } = r;
    const diameter = r.need('diameter', system === 'us' ? 'in' : 'mm');
    const half = latterHalf(r, p.upperShare);
    if (diameter === null || !half) return;
    const { fit, times, upper } = half;
    const ends = [times[upper[0]!]!, times[upper.at(-1)!]!];
    const onLine = ends.map((t) => c.add(fit.intercept, c.mul(fit.slope, t)));
    r.series('fittedAt', ends, 's', { s: '0.1' });
    // Newtons of the fit, in the unit of the machine's display.
    r.series('fitted', system === 'us' ? onLine : onLine.map((load) => c.div(load, c.num('1000'))), system === 'us' ? 'lbf' : 'kN');
    r.result('points', c.num(String(upper.length)), '1', { '1': '1' });
    judgeRate(r, fit.slope, c.div(c.mul(c.num(PI), c.mul(diameter, diameter)), c.num('4')), p);
  },
});
