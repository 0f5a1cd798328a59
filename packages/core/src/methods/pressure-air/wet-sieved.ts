import { method, qty, type Citation } from '../definition.js';

const C231: Citation = { designation: 'ASTM C231/C231M', edition: '2022', part: 'air content of the full mixture' };

const volume = { possible: { unit: 'm3', above: '0', most: '50' } } as const;

export const wetSievedAir = method({
  id: 'wet-sieved-air',
  on: ['sample'],
  title: 'Air of the full mixture, from a wet-sieved sample',
  names: ['wet sieving', 'full mixture air', 'At'],
  follows: [C231],
  about: 'Air measured on what passed the sieve, put back to the whole mixture. Density and yield are of the whole as it is.',
  fields: {
    sieved: qty(
      'percent',
      'As',
      'Air of the sieved sample',
      { si: '%', us: '%' },
      {
        possible: { unit: '%', least: '0', most: '100' },
        plausible: { unit: '%', least: '0', most: '15' },
      },
    ),
    passing: qty('volume', 'Vc', 'Volume of the mixture passing the sieve, air-free', { si: 'm3', us: 'ft3' }, volume),
    total: qty('volume', 'Vt', 'Volume of all ingredients, air-free', { si: 'm3', us: 'ft3' }, volume),
    over: qty(
      'volume',
      'Va',
      'Volume of coarse aggregate over the sieve',
      { si: 'm3', us: 'ft3' },
      { possible: { unit: 'm3', least: '0', most: '50' } },
    ),
  },
  results: {
    air: {
      label: 'Air of the full mixture',
      symbol: 'At',
      units: { si: '%', us: '%' },
      property: 'air',
      plausible: { unit: '%', least: '0', most: '15' },
      main: true,
    },
  },
  variants: { c231: { label: 'to 0.1 %', source: C231, params: { increments: { '%': '0.1' } } } },
  steps: [
    {
      text: 'Pieces over 50 mm (2 in): sieve the sample wet on 37.5 mm (1 1/2 in) by hand, no mortar wiped off, before the bowl is filled.',
    },
  ],
  example: { sieved: '6.5 %', passing: '0.82 m3', total: '0.93 m3', over: '0.11 m3' },
  run(r) {
    const { c, p, system } = r;
    const unit = system === 'us' ? 'ft3' : 'm3';
    const [sieved, passing, total, over] = [r.need('sieved', '%'), r.need('passing', unit), r.need('total', unit), r.need('over', unit)];
    if (sieved === null || passing === null || total === null || over === null) return;
    if (c.value(passing).compare(c.value(total)) > 0) {
      r.refuse('parts-exceed-whole', 'passing');
      return;
    }
    const hundred = c.num('100');
    const air = c.div(c.mul(hundred, c.mul(sieved, passing)), c.sub(c.mul(hundred, total), c.mul(sieved, over)));
    r.result('air', c.name('At', air, '%'), '%', p.increments);
  },
});
