import { PI } from '../../numbers/constants.js';
import { brief, exact, type Exact } from '../../numbers/exact.js';
import { unitLabel, type System } from '../../units/units.js';
import { method, qty, rows, type Citation, type Increments } from '../definition.js';
import { fitLine } from '../fit.js';
import { column } from '../rows.js';
import { GUARD } from '../compression/compression.js';

const C39: Citation = { designation: 'ASTM C39/C39M', edition: '2024', part: 'rate of loading' };

type RateParams = { target: Record<System, string>; tolerance: Record<System, string>; upperShare: string; increments: Increments };

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
    trace: rows(
      'Trace',
      {
        time: qty('time', 't', 'Time', { si: 's', us: 's' }, { possible: { unit: 's', least: '0', most: '3600' } }),
        load: qty('force', 'P', 'Load', { si: 'kN', us: 'lbf' }, { possible: { unit: 'kN', least: '0', most: '20000' } }),
      },
      { most: 2000 },
    ),
  },
  results: {
    rate: { label: 'Rate of the latter half', symbol: 'ṡ', units: { si: 'MPa/s', us: 'psi/s' }, main: true },
    fittedAt: { label: 'The line runs from and to', symbol: 't', units: { si: 's', us: 's' }, drawn: true },
    fitted: { label: 'Load on the line there', symbol: 'P̂', units: { si: 'kN', us: 'lbf' }, drawn: true },
    points: { label: 'Points in the fit', symbol: 'n', units: { si: '1', us: '1' } },
  },
  variants: {
    c39: {
      label: '0.25 ± 0.05 MPa/s (35 ± 7 psi/s)',
      source: C39,
      params: {
        target: { si: '0.25', us: '35' },
        tolerance: { si: '0.05', us: '7' },
        upperShare: '0.5',
        increments: { 'MPa/s': '0.01', 'psi/s': '1' },
      } satisfies RateParams as RateParams,
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
    const [length, force, unit] = system === 'us' ? (['in', 'lbf', 'psi/s'] as const) : (['mm', 'N', 'MPa/s'] as const);
    const diameter = r.need('diameter', length);
    const [times, loads] = [column(r, 'trace', 'time', 's', 't', 3), column(r, 'trace', 'load', force, 'P', 3)];
    if (diameter === null || !times || !loads) return;
    const disorder = times.findIndex((t, i) => i > 0 && c.value(t).compare(c.value(times[i - 1]!)) <= 0);
    if (disorder > 0) return r.refuse('times-in-disorder', `trace.${disorder}.time`);
    const peak = loads.reduce<Exact>((most, load) => (c.value(load).compare(most) > 0 ? c.value(load) : most), exact('0'));
    const last = loads.findIndex((load) => c.value(load).equals(peak));
    const upper = loads.flatMap((load, i) => (i <= last && c.value(load).compare(peak.mul(exact(p.upperShare))) >= 0 ? [i] : []));
    if (upper.length < 2) return r.note('trace-too-coarse');
    const fit = fitLine(
      c,
      upper.map((i) => times[i]!),
      upper.map((i) => loads[i]!),
    )!;
    const area = c.div(c.mul(c.num(PI), c.mul(diameter, diameter)), c.num('4'));
    const rate = c.name('ṡ', c.div(fit.slope, area), unit);
    const ends = [times[upper[0]!]!, times[upper.at(-1)!]!];
    const onLine = ends.map((t) => c.add(fit.intercept, c.mul(fit.slope, t)));
    r.series('fittedAt', ends, 's', { s: '0.1' });
    // Newtons of the fit, in the unit of the machine's display.
    r.series('fitted', system === 'us' ? onLine : onLine.map((load) => c.div(load, c.num('1000'))), system === 'us' ? 'lbf' : 'kN');
    r.result('points', c.num(String(upper.length)), '1', { '1': '1' });
    r.result('rate', rate, unit, p.increments);
    const [target, tolerance] = [p.target[system], p.tolerance[system]];
    if (c.value(rate).sub(exact(target)).abs().compare(exact(tolerance)) > 0)
      r.marks('rate-outside', {
        rate: brief(c.value(rate), 2, exact(target).add(exact(tolerance).mul(c.value(rate).compare(exact(target)) > 0 ? 1 : -1))),
        target,
        tolerance,
        unit: unitLabel(unit),
      });
  },
});
