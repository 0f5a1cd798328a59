import { method, qty, rows, type Citation, type Increments } from '../definition.js';

const ACI522: Citation = { designation: 'ACI 522R', edition: '2010', part: 'permeability of pervious concrete, falling head' };

const cm = { possible: { unit: 'cm', above: '0', most: '1000' } } as const;

export const fallingHead = method({
  id: 'falling-head',
  on: ['specimen'],
  title: 'Permeability, falling head',
  names: ['falling head', 'pervious', 'permeability'],
  follows: [ACI522],
  about: 'Head that falls in a tube over a specimen: usual for pervious concrete. Mean of the trials.',
  fields: {
    tube: qty('area', 'a', 'Area of the tube', { si: 'cm2', us: 'in2' }, { possible: { unit: 'cm2', above: '0', most: '10000' } }),
    specimen: qty('area', 'A', 'Area of the specimen', { si: 'cm2', us: 'in2' }, { possible: { unit: 'cm2', above: '0', most: '10000' } }),
    length: qty('length', 'L', 'Length of the specimen', { si: 'cm', us: 'in' }, cm),
    trials: rows(
      'Trials',
      {
        time: qty('time', 't', 'Time', { si: 's', us: 's' }, { possible: { unit: 's', above: '0', most: '10000000' } }),
        h1: qty('length', 'h1', 'Head at the start', { si: 'cm', us: 'in' }, cm),
        h2: qty('length', 'h2', 'Head at the end', { si: 'cm', us: 'in' }, cm),
      },
      { most: 60 },
    ),
  },
  results: {
    trials: { label: 'Permeability of each trial', symbol: 'K', units: { si: 'cm/s', us: 'cm/s' }, along: 'trials' },
    mean: {
      label: 'Permeability',
      symbol: 'K̄',
      units: { si: 'cm/s', us: 'cm/s' },
      property: 'permeability',
      plausible: { unit: 'cm/s', least: '0.01', most: '10' },
      main: true,
    },
    metres: { label: 'the same in m/s', symbol: 'K̄', units: { si: 'm/s', us: 'm/s' } },
  },
  variants: {
    mean: {
      label: 'a·L/(A·t)·ln(h1/h2), mean of the trials',
      source: ACI522,
      params: { increments: { 'cm/s': '~3', 'm/s': '~3' } satisfies Increments as Increments },
    },
  },
  steps: [
    { text: 'Side sealed, specimen saturated from below, no air under it; time the fall between the same two marks, three times.' },
    { text: 'Water on the floor is slippery: mop up.', caution: true },
  ],
  example: {
    tube: '78.5 cm2',
    specimen: '78.5 cm2',
    length: '15 cm',
    trials: '21.4 21.9 22.3'.split(' ').map((time) => ({ time: `${time} s`, h1: '30 cm', h2: '7 cm' })),
  },
  run(r) {
    const { c, x, p } = r;
    const [tube, specimen, length] = [r.need('tube', 'cm2'), r.need('specimen', 'cm2'), r.need('length', 'cm')];
    const list = (x.trials ?? []).map((_row, i) => ({
      time: r.inRow('trials', i, 'time', 's', 't'),
      h1: r.inRow('trials', i, 'h1', 'cm', 'h1,'),
      h2: r.inRow('trials', i, 'h2', 'cm', 'h2,'),
    }));
    if (list.length === 0) r.missing('trials');
    const trials = list.flatMap(({ time, h1, h2 }) => (time === null || h1 === null || h2 === null ? [] : [{ time, h1, h2 }]));
    if (tube === null || specimen === null || length === null || trials.length === 0 || trials.length < list.length) return;
    const rising = trials.findIndex(({ h1, h2 }) => c.value(h2).compare(c.value(h1)) >= 0);
    if (rising >= 0) return r.refuse('head-does-not-fall', `trials.${rising}.h2`);
    const each = trials.map(({ time, h1, h2 }, i) =>
      c.name(`K${i + 1}`, c.mul(c.div(c.mul(tube, length), c.mul(specimen, time)), c.apply('ln', c.div(h1, h2))), 'cm/s'),
    );
    r.series('trials', each, 'cm/s', p.increments);
    const mean = c.name('K̄', c.div(c.sum(each), c.num(String(each.length))), 'cm/s');
    r.result('mean', mean, 'cm/s', p.increments);
    r.result('metres', c.div(mean, c.num('100')), 'm/s', p.increments);
  },
});
