import { method, qty, type Citation } from '../definition.js';

const C231: Citation = { designation: 'ASTM C231/C231M', edition: '2022', part: 'aggregate correction factor' };

const batchMass = { possible: { unit: 'kg', above: '0', most: '60000' } } as const;

export const correctionFactor = method({
  id: 'aggregate-correction',
  on: ['trial-batch'],
  kit: 'measure',
  uses: ['air-meter'],
  gives: { correction: { as: 'mix.correction', to: 'subject' } },
  title: 'Aggregate correction factor',
  names: ['correction factor', 'aggregate correction', 'G'],
  follows: [C231],
  about: 'The meter’s reading on the aggregates alone. Not derivable from absorption; made again when the aggregate changes.',
  fields: {
    bowl: qty(
      'volume',
      'S',
      'Volume of the bowl',
      { si: 'L', us: 'ft3' },
      {
        from: 'measure.volume',
        possible: { unit: 'L', above: '0', most: '50' },
        plausible: { unit: 'L', least: '5', most: '30' },
      },
    ),
    batch: qty(
      'volume',
      'B',
      'Volume of the batch',
      { si: 'm3', us: 'ft3' },
      { possible: { unit: 'm3', above: '0', most: '30' }, plausible: { unit: 'm3', least: '0.01', most: '15' } },
    ),
    fine: qty('mass', 'Fb', 'Fine aggregate in the batch', { si: 'kg', us: 'lb' }, batchMass),
    coarse: qty('mass', 'Cb', 'Coarse aggregate in the batch', { si: 'kg', us: 'lb' }, batchMass),
    reading: qty('percent', 'R', 'Meter reading', { si: '%', us: '%' }, { possible: { unit: '%', least: '0', most: '100' } }),
    removed: qty('volume', 'Vw', 'Water removed', { si: 'mL', us: 'ft3' }, { possible: { unit: 'mL', least: '0', most: '10000' } }),
  },
  results: {
    fine: { label: 'Fine aggregate for the bowl', symbol: 'Fs', units: { si: 'kg', us: 'lb' } },
    coarse: { label: 'Coarse aggregate for the bowl', symbol: 'Cs', units: { si: 'kg', us: 'lb' } },
    correction: {
      label: 'Correction factor',
      symbol: 'G',
      units: { si: '%', us: '%' },
      plausible: { unit: '%', least: '0', most: '1.5' },
      main: true,
    },
  },
  variants: { c231: { label: 'on the inundated aggregates', source: C231, params: {} } },
  steps: [
    { text: 'Inundate the two masses in the bowl, stir out the air, close, remove water of about the concrete’s air, run the meter.' },
  ],
  example: { bowl: '7.043 L', batch: '6 m3', fine: '4352 kg', coarse: '6078 kg', reading: '5.4 %', removed: '350 mL' },
  run(r) {
    const { c, system } = r;
    const [volume, mass] = system === 'us' ? (['ft3', 'lb'] as const) : (['L', 'kg'] as const);
    const bowl = r.need('bowl', volume);
    const batch = r.need('batch', volume);
    for (const [id, symbol] of [
      ['fine', 'Fs'],
      ['coarse', 'Cs'],
    ] as const) {
      const whole = r.need(id, mass);
      if (bowl !== null && batch !== null && whole !== null) r.result(id, c.name(symbol, c.mul(c.div(bowl, batch), whole), mass), mass);
    }
    const reading = r.need('reading', '%');
    const removed = r.need('removed', volume);
    if (bowl === null || reading === null || removed === null) return;
    const water = c.div(c.mul(c.num('100'), removed), bowl);
    if (c.value(water).compare(c.value(reading)) > 0) {
      r.refuse('below-correction', 'reading');
      return;
    }
    r.result('correction', c.name('G', c.sub(reading, water), '%'), '%', { '%': '0.1' });
  },
});
