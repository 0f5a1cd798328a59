import { brief, exact } from '../../numbers/exact.js';
import { unitLabel, type System } from '../../units/units.js';
import { method, pick, qty, type Citation, type Increments } from '../definition.js';

const C511: Citation = { designation: 'ASTM C511', edition: '2021' };

type StorageParams = { least: Record<System, string>; most: Record<System, string>; increments: Increments };

export const STORAGE_PARAMS: StorageParams = {
  least: { si: '21', us: '70' },
  most: { si: '25', us: '77' },
  increments: { C: '0.1', F: '0.1' },
};

export const storage = method({
  id: 'storage',
  on: ['storage'],
  kit: 'thermometer',
  title: 'Temperature of a tank or moist room',
  names: ['tank', 'moist room', 'curing room', 'curing temperature', 'lime water'],
  follows: [C511],
  about: 'What specimens lie in until they are broken: how warm it is, and whether they are wet all over.',
  fields: {
    temperature: qty(
      'temperature',
      'T',
      'Temperature',
      { si: 'C', us: 'F' },
      {
        possible: { unit: 'C', above: '-5', most: '60' },
        plausible: { unit: 'C', least: '15', most: '32' },
        typical: { text: '23', unit: 'C' },
      },
    ),
    wet: pick('Free water on every face', { yes: 'yes', no: 'no' }, { optional: true, usual: 'yes' }),
    lime: pick('Lime on the bottom of the tank', { yes: 'yes', no: 'no' }, { optional: true }),
  },
  results: {
    temperature: {
      label: 'Temperature of the tank or room',
      symbol: 'T',
      units: { si: 'C', us: 'F' },
      property: 'storage-temperature',
      plausible: { unit: 'C', least: '15', most: '32' },
      main: true,
    },
  },
  variants: { c511: { label: '23 ± 2 °C (73.5 ± 3.5 °F), wet all over', source: C511, params: STORAGE_PARAMS } },
  steps: [
    { text: 'Read in the water or the air beside the specimens, once a day; and look whether every face is wet.' },
    {
      text: 'Undissolved lime on the bottom of a tank; stir and clean it as the laboratory says. Lime water burns: gloves.',
      caution: true,
    },
  ],
  example: { temperature: '22.6 C', wet: 'yes' },
  run(r) {
    const { c, p, system, x } = r;
    const unit = system === 'us' ? 'F' : 'C';
    const temperature = r.need('temperature', unit);
    if (x.wet === 'no') r.marks('not-wet-all-over');
    if (x.lime === 'no') r.marks('no-lime-left');
    if (temperature === null) return;
    r.result('temperature', temperature, unit, p.increments);
    const [least, most] = [p.least[system], p.most[system]];
    const value = c.value(temperature);
    if (value.compare(exact(least)) >= 0 && value.compare(exact(most)) <= 0) return;
    const edge = value.compare(exact(least)) < 0 ? least : most;
    r.marks('storage-outside', { got: brief(value, 3, exact(edge)), least, most, unit: unitLabel(unit) });
  },
});
