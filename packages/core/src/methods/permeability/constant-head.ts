import { brief, exact } from '../../numbers/exact.js';
import type { Calc } from '../calc.js';
import { method, pick, qty, rows, type Citation, type Increments } from '../definition.js';
import { powerText } from '../../record/answer.js';
import { seriesRate } from './steady.js';

const IS3085: Citation = { designation: 'IS 3085', edition: '1965' };

/** Standard gravity, m/s². */
const GRAVITY = '9.80665';

export type ConstantHeadParams = {
  standard: string;
  correct: 'viscosity' | 'linear-down' | 'linear-up';
  perDegree: string;
  headWarns: string;
  /** Pressure and head keyed both: further apart than this, %, they contradict each other. */
  headsWithin: string;
  increments: Increments;
  /** Gradient above which the flow is not Darcy's: through open concrete it is turbulent far sooner. */
  gradientMost: { any: string; pervious: string };
  /** Successive rates of a series agree within this, %, over at least so many intervals: then it is steady. */
  steady: { within: string; intervals: number };
  /** What is usual of each kind of concrete, m/s. */
  usual: Record<'structural' | 'pervious', { least: string; most: string }>;
};

const PARAMS: Omit<ConstantHeadParams, 'correct'> = {
  standard: '27',
  perDegree: '0.02',
  headWarns: '3',
  headsWithin: '2',
  increments: { 'm/s': '~3', 'cm/s': '~3' },
  gradientMost: { any: '5000', pervious: '100' },
  steady: { within: '5', intervals: 3 },
  usual: {
    structural: { least: '0.0000000000001', most: '0.000000001' },
    pervious: { least: '0.001', most: '0.015' },
  },
};

export const constantHead = method({
  id: 'constant-head',
  on: ['specimen'],
  title: 'Permeability, constant head',
  names: ['permeability', 'constant head', 'pressure cell', 'Darcy'],
  follows: [IS3085],
  about: 'Water that flows through a specimen under a steady head: K = Q·L/(A·t·H), put to 27 °C.',
  panel: 'permeability',
  fields: {
    volume: qty(
      'volume',
      'Q',
      'Volume collected at steady flow',
      { si: 'mL', us: 'mL' },
      { optional: true, possible: { unit: 'mL', above: '0', most: '1000000' } },
    ),
    time: qty(
      'time',
      't',
      'In',
      { si: 's', us: 's' },
      { optional: true, possible: { unit: 's', above: '0', most: '100000000' }, plausible: { unit: 's', least: '30', most: '1000000' } },
    ),
    inflow: qty(
      'volume',
      'Q_i',
      'Volume that went in meanwhile',
      { si: 'mL', us: 'mL' },
      { optional: true, minor: true, possible: { unit: 'mL', above: '0', most: '1000000' } },
    ),
    series: rows(
      'or a series of timed volumes, running totals',
      {
        time: qty('time', 't', 'Time', { si: 's', us: 's' }, { possible: { unit: 's', least: '0', most: '100000000' } }),
        total: qty('volume', 'Q', 'Collected so far', { si: 'mL', us: 'mL' }, { possible: { unit: 'mL', least: '0', most: '1000000' } }),
      },
      { optional: true, most: 500 },
    ),
    concrete: pick('Concrete', { structural: 'Structural', pervious: 'Pervious' }, { optional: true, minor: true }),
    area: qty(
      'area',
      'A',
      'Area of the face',
      { si: 'cm2', us: 'in2' },
      { possible: { unit: 'cm2', above: '0', most: '10000' }, plausible: { unit: 'cm2', least: '15', most: '1000' } },
    ),
    thickness: qty(
      'length',
      'L',
      'Thickness',
      { si: 'mm', us: 'in' },
      { possible: { unit: 'mm', above: '0', most: '2000' }, plausible: { unit: 'mm', least: '20', most: '400' } },
    ),
    temperature: qty(
      'temperature',
      'T',
      'Temperature of the water',
      { si: 'C', us: 'F' },
      { possible: { unit: 'C', least: '1', most: '60' } },
    ),
    pressure: qty(
      'stress',
      'p',
      'Pressure',
      { si: 'kPa', us: 'psi' },
      {
        optional: true,
        possible: { unit: 'kPa', above: '0', most: '10000' },
        plausible: { unit: 'kPa', least: '5', most: '2000' },
        typical: { text: '10', unit: 'kgf/cm2' },
      },
    ),
    head: qty(
      'length',
      'H',
      'or the head of water itself',
      { si: 'm', us: 'm' },
      { optional: true, possible: { unit: 'm', above: '0', most: '1000' }, plausible: { unit: 'm', least: '0.5', most: '200' } },
    ),
    water: qty(
      'density',
      'ρw',
      'Density of the water',
      { si: 'kg/m3', us: 'kg/m3' },
      {
        usual: { si: '1000', us: '1000' },
        possible: { unit: 'kg/m3', above: '0', most: '1100' },
        plausible: { unit: 'kg/m3', least: '980', most: '1001' },
      },
    ),
  },
  results: {
    rate: { label: 'Steady flow', symbol: 'q', units: { si: 'mL/s', us: 'mL/s' } },
    steadyFrom: { label: 'Steady from', symbol: 't0', units: { si: 's', us: 's' } },
    fittedAt: { label: 'The line runs from and to', symbol: 't', units: { si: 's', us: 's' }, drawn: true },
    fitted: { label: 'Collected, on the line there', symbol: 'Q̂', units: { si: 'mL', us: 'mL' }, drawn: true },
    steadyPoints: { label: 'Points in the steady part', symbol: 'n', units: { si: '1', us: '1' } },
    head: { label: 'Head of water', symbol: 'H', units: { si: 'm', us: 'm' } },
    measured: { label: 'Permeability as measured', symbol: 'K_T', units: { si: 'm/s', us: 'm/s' } },
    standard: { label: 'Permeability at 27 °C', symbol: 'K_27', units: { si: 'm/s', us: 'm/s' }, property: 'permeability', main: true },
    centimetres: { label: 'the same in cm/s', symbol: 'K_27', units: { si: 'cm/s', us: 'cm/s' } },
  },
  variants: {
    viscosity: {
      label: 'by the viscosity of water',
      source: IS3085,
      params: { ...PARAMS, correct: 'viscosity' } satisfies ConstantHeadParams as ConstantHeadParams,
    },
    linear_down: {
      label: '10 % in 5 °C, warm water down',
      source: IS3085,
      params: { ...PARAMS, correct: 'linear-down' } satisfies ConstantHeadParams as ConstantHeadParams,
    },
    linear_up: {
      label: '10 % in 5 °C applied upwards: met in practice, against the physics',
      source: IS3085,
      params: { ...PARAMS, correct: 'linear-up' } satisfies ConstantHeadParams as ConstantHeadParams,
    },
  },
  steps: [
    { text: 'Joints tight, chamber full, pressure steady; collect only when inflow and outflow agree.' },
    { text: 'The cell is under pressure: release it before a joint is opened. Sealing compounds are hot and fume.', caution: true },
  ],
  example: {
    series: '0/0 1800/4.1 3600/7.0 5400/9.4 7200/11.9 9000/14.3 10800/16.8'.split(' ').map((point) => {
      const [time, total] = point.split('/');
      return { time: `${time ?? ''} s`, total: `${total ?? ''} mL` };
    }),
    concrete: 'structural',
    area: '176.7 cm2',
    thickness: '150 mm',
    temperature: '24.5 C',
    pressure: '10 kgf/cm2',
    water: '997.2 kg/m3',
  },
  further: [
    {
      volume: '12.1 mL',
      time: '5400 s',
      area: '176.7 cm2',
      thickness: '150 mm',
      temperature: '24.5 C',
      head: '100 m',
      water: '997.2 kg/m3',
    },
  ],
  run(r) {
    const { c, x, p } = r;
    const [area, thickness, t] = [r.need('area', 'm2'), r.need('thickness', 'm'), r.need('temperature', 'C')];
    const rate = x.series !== null && x.series.length > 0 ? seriesRate(r) : singleRate();
    const head = headOf();
    if (head === null) return;
    r.result('head', head, 'm');
    if (x.pressure !== null && c.value(head).compare(exact(p.headWarns)) < 0)
      r.doubt('head-as-pressure', 'pressure', { head: brief(c.value(head), 3, exact(p.headWarns)) });
    if (rate === null || area === null || thickness === null) return;
    const gradient = c.value(head).div(c.value(thickness));
    if (gradient.compare(exact(p.gradientMost[x.concrete === 'pervious' ? 'pervious' : 'any'])) > 0)
      r.note('beyond-darcy', { gradient: brief(gradient, 3) });
    const measured = c.name('K_T', c.div(c.mul(rate, thickness), c.mul(area, head)), 'm/s');
    r.result('measured', measured, 'm/s', p.increments);
    if (t === null) return;
    const standard = c.name('K_27', atStandard(c, measured, t, p), 'm/s');
    r.result('standard', standard, 'm/s', p.increments);
    r.result('centimetres', c.mul(standard, c.num('100')), 'cm/s', p.increments);
    const usual = x.concrete && p.usual[x.concrete];
    const k = c.value(standard);
    if (usual && (k.compare(exact(usual.least)) < 0 || k.compare(exact(usual.most)) > 0))
      r.doubt('unlikely-permeability', 'concrete', { least: powerText(usual.least), most: powerText(usual.most) });

    function singleRate() {
      const [volume, time] = [r.need('volume', 'm3'), r.need('time', 's')];
      if (volume === null || time === null) return null;
      const inflow = r.have('inflow', 'm3');
      const off = inflow && c.value(inflow).sub(c.value(volume)).div(c.value(volume)).mul(100).abs();
      if (off && off.compare(exact(p.steady.within)) > 0)
        r.marks('flows-disagree', { apart: brief(off, 2, exact(p.steady.within)), within: p.steady.within });
      return c.name('q', c.div(volume, time), 'm3/s');
    }

    function headOf() {
      const given = r.have('head', 'm');
      if (given !== null && x.pressure === null) return given;
      const [pressure, water] = [given === null ? r.need('pressure', 'Pa') : r.have('pressure', 'Pa'), r.need('water', 'kg/m3')];
      if (pressure === null || water === null) return given;
      const found = c.name('H', c.div(pressure, c.mul(water, c.num(GRAVITY))), 'm');
      if (given === null) return found;
      const off = c.value(found).sub(c.value(given)).abs().div(c.value(given)).mul(100);
      if (off.compare(exact(p.headsWithin)) <= 0) return given;
      r.refuse('pressure-and-head', 'head', { pressure: brief(c.value(found)), head: brief(c.value(given)) });
      return null;
    }
  },
});

/** Warm water is thinner: a reading above the standard temperature is corrected down. */
function atStandard<V>(c: Calc<V>, k: V, t: V, p: ConstantHeadParams): V {
  const standard = c.num(p.standard);
  if (p.correct === 'viscosity') {
    // μ(T) = 2.414·10⁻⁵·10^(247.8/(T + 133.15)): the constant falls out of the ratio.
    const power = (at: V) => c.div(c.num('247.8'), c.add(at, c.num('133.15')));
    return c.mul(k, c.apply('10^', c.sub(power(t), power(standard))));
  }
  const factor = c.add(c.num('1'), c.mul(c.num(p.perDegree), c.sub(t, standard)));
  return p.correct === 'linear-down' ? c.div(k, factor) : c.mul(k, factor);
}
