import { exact, shown } from '../../numbers/exact.js';
import type { Calc } from '../calc.js';
import { method, qty, rows, type Citation } from '../definition.js';

const IS3085: Citation = { designation: 'IS 3085', edition: '1965' };

/** Standard gravity, m/s². */
const GRAVITY = '9.80665';

type ConstantHeadParams = {
  standard: string;
  correct: 'viscosity' | 'linear-down' | 'linear-up';
  perDegree: string;
  headWarns: string;
  gradientMost: string;
};

const PARAMS = { standard: '27', perDegree: '0.02', headWarns: '3', gradientMost: '5000' };

export const constantHead = method({
  id: 'constant-head',
  title: 'Permeability, constant head',
  names: ['permeability', 'constant head', 'pressure cell', 'Darcy'],
  follows: [IS3085],
  about: 'Water that flows through a specimen under a steady head: K = Q·L/(A·t·H), put to 27 °C.',
  panel: 'permeability',
  fields: {
    volume: qty('volume', 'Q', 'Volume collected', { si: 'mL', us: 'mL' }, { possible: { unit: 'mL', above: '0', most: '1000000' } }),
    time: qty('time', 't', 'In', { si: 's', us: 's' }, { possible: { unit: 's', above: '0', most: '100000000' } }),
    area: qty('area', 'A', 'Area of the face', { si: 'cm2', us: 'in2' }, { possible: { unit: 'cm2', above: '0', most: '10000' } }),
    thickness: qty('length', 'L', 'Thickness', { si: 'mm', us: 'in' }, { possible: { unit: 'mm', above: '0', most: '2000' } }),
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
      { optional: true, possible: { unit: 'kPa', above: '0', most: '10000' } },
    ),
    head: qty(
      'length',
      'H',
      'or the head of water itself',
      { si: 'm', us: 'm' },
      { optional: true, possible: { unit: 'm', above: '0', most: '1000' } },
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
    head: { label: 'Head of water', symbol: 'H', units: { si: 'm', us: 'm' } },
    measured: { label: 'Permeability as measured', symbol: 'K_T', units: { si: 'm/s', us: 'm/s' } },
    standard: { label: 'Permeability at 27 °C', symbol: 'K_27', units: { si: 'm/s', us: 'm/s' }, property: 'permeability', main: true },
    centimetres: { label: 'the same in cm/s', symbol: 'K_27', units: { si: 'cm/s', us: 'cm/s' } },
  },
  variants: {
    viscosity: { label: 'by the viscosity of water', source: IS3085, params: { ...PARAMS, correct: 'viscosity' } as ConstantHeadParams },
    linear_down: {
      label: '10 % in 5 °C, warm water down',
      source: IS3085,
      params: { ...PARAMS, correct: 'linear-down' } as ConstantHeadParams,
    },
    linear_up: {
      label: '10 % in 5 °C applied upwards: met in practice, against the physics',
      source: IS3085,
      params: { ...PARAMS, correct: 'linear-up' } as ConstantHeadParams,
    },
  },
  steps: [
    { text: 'Joints tight, chamber full, pressure steady; collect only when inflow and outflow agree.' },
    { text: 'The cell is under pressure: release it before a joint is opened. Sealing compounds are hot and fume.', caution: true },
  ],
  run(r) {
    const { c, x, p } = r;
    const [volume, time, area, thickness, t] = [
      r.need('volume', 'm3'),
      r.need('time', 's'),
      r.need('area', 'm2'),
      r.need('thickness', 'm'),
      r.need('temperature', 'C'),
    ];
    const head = headOf();
    if (head === null) return;
    r.result('head', head, 'm');
    if (x.pressure !== null && c.value(head).compare(exact(p.headWarns)) < 0)
      r.doubt('head-as-pressure', 'pressure', { head: shown(c.value(head), 3) });
    if (volume === null || time === null || area === null || thickness === null) return;
    const gradient = c.value(head).div(c.value(thickness));
    if (gradient.compare(exact(p.gradientMost)) > 0) r.note('beyond-darcy', { gradient: shown(gradient, 3) });
    const measured = c.name('K_T', c.div(c.mul(volume, thickness), c.mul(c.mul(area, time), head)), 'm/s');
    r.result('measured', measured, 'm/s');
    if (t === null) return;
    const standard = c.name('K_27', atStandard(c, measured, t, p), 'm/s');
    r.result('standard', standard, 'm/s');
    r.result('centimetres', c.mul(standard, c.num('100')), 'cm/s');

    function headOf() {
      const given = r.have('head', 'm');
      if (given !== null) return given;
      const [pressure, water] = [r.need('pressure', 'Pa'), r.need('water', 'kg/m3')];
      return pressure === null || water === null ? null : c.name('H', c.div(pressure, c.mul(water, c.num(GRAVITY))), 'm');
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

const cm = { possible: { unit: 'cm', above: '0', most: '1000' } } as const;

export const fallingHead = method({
  id: 'falling-head',
  title: 'Permeability, falling head',
  names: ['falling head', 'pervious', 'permeability'],
  follows: [{ designation: 'ASTM D5084', edition: '2016', part: 'falling head' }],
  about: 'Head that falls in a tube over a specimen: usual for pervious concrete. Mean of the trials.',
  fields: {
    tube: qty('area', 'a', 'Area of the tube', { si: 'cm2', us: 'in2' }, { possible: { unit: 'cm2', above: '0', most: '10000' } }),
    specimen: qty('area', 'A', 'Area of the specimen', { si: 'cm2', us: 'in2' }, { possible: { unit: 'cm2', above: '0', most: '10000' } }),
    length: qty('length', 'L', 'Length of the specimen', { si: 'cm', us: 'in' }, cm),
    trials: rows('Trials', {
      time: qty('time', 't', 'Time', { si: 's', us: 's' }, { possible: { unit: 's', above: '0', most: '10000000' } }),
      h1: qty('length', 'h1', 'Head at the start', { si: 'cm', us: 'in' }, cm),
      h2: qty('length', 'h2', 'Head at the end', { si: 'cm', us: 'in' }, cm),
    }),
  },
  results: {
    trials: { label: 'Permeability of each trial', symbol: 'K', units: { si: 'cm/s', us: 'cm/s' } },
    mean: { label: 'Permeability', symbol: 'K̄', units: { si: 'cm/s', us: 'cm/s' }, property: 'permeability', main: true },
    metres: { label: 'the same in m/s', symbol: 'K̄', units: { si: 'm/s', us: 'm/s' } },
  },
  variants: {
    mean: { label: 'a·L/(A·t)·ln(h1/h2), mean of the trials', source: { designation: 'ASTM D5084', edition: '2016' }, params: {} },
  },
  steps: [],
  run(r) {
    const { c, x } = r;
    const [tube, specimen, length] = [r.need('tube', 'cm2'), r.need('specimen', 'cm2'), r.need('length', 'cm')];
    const list = (x.trials ?? []).map((_row, i) => ({
      time: r.inRow('trials', i, 'time', 's', `t${i + 1}`),
      h1: r.inRow('trials', i, 'h1', 'cm', `h1,${i + 1}`),
      h2: r.inRow('trials', i, 'h2', 'cm', `h2,${i + 1}`),
    }));
    if (list.length === 0) r.missing('trials');
    const trials = list.flatMap(({ time, h1, h2 }) => (time === null || h1 === null || h2 === null ? [] : [{ time, h1, h2 }]));
    if (tube === null || specimen === null || length === null || trials.length === 0 || trials.length < list.length) return;
    const rising = trials.findIndex(({ h1, h2 }) => c.value(h2).compare(c.value(h1)) >= 0);
    if (rising >= 0) return r.refuse('head-does-not-fall', `trials.${rising}.h2`);
    const each = trials.map(({ time, h1, h2 }, i) =>
      c.name(`K${i + 1}`, c.mul(c.div(c.mul(tube, length), c.mul(specimen, time)), c.apply('ln', c.div(h1, h2))), 'cm/s'),
    );
    r.series('trials', each, 'cm/s');
    const mean = c.name('K̄', c.div(c.sum(each), c.num(String(each.length))), 'cm/s');
    r.result('mean', mean, 'cm/s');
    r.result('metres', c.div(mean, c.num('100')), 'm/s');
  },
});
