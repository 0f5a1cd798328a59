import { exact, type Exact } from '../../numbers/exact.js';
import { method, pick, qty, type Citation } from '../definition.js';

const C876: Citation = { designation: 'ASTM C876', edition: '2022' };

type HalfCellParams = {
  /** Potentials of the electrodes, mV; the first is the reference. */
  electrodes: Record<'cse' | 'sce' | 'agcl', string>;
  temperature: { standard: string; free: string; perDegree: string };
  classes: { noCorrosionAbove: string; corrosionBelow: string };
};

export const halfCell = method({
  id: 'half-cell',
  title: 'Half-cell potential',
  names: ['half-cell', 'corrosion potential', 'CSE', 'electrode', 'potential survey'],
  follows: [C876],
  about: 'Potential of steel in concrete against a reference electrode: a probability of corrosion at that time, not a rate.',
  panel: 'map',
  fields: {
    potential: qty(
      'potential',
      'E',
      'Potential',
      { si: 'mV', us: 'mV' },
      { possible: { unit: 'mV', least: '-2000', most: '2000' }, plausible: { unit: 'mV', least: '-900', most: '50' } },
    ),
    electrode: pick('Electrode', { cse: 'Copper, copper sulfate', sce: 'Saturated calomel', agcl: 'Silver, silver chloride' }),
    temperature: qty('temperature', 't', 'Temperature', { si: 'C', us: 'F' }, { possible: { unit: 'C', least: '-20', most: '60' } }),
  },
  results: {
    correction: { label: 'Correction for temperature', symbol: 'ΔE', units: { si: 'mV', us: 'mV' } },
    cse: { label: 'Potential against copper, copper sulfate', symbol: 'E_CSE', units: { si: 'mV', us: 'mV' }, main: true },
    class: { label: 'Class', symbol: 'class', units: { si: '1', us: '1' }, main: true },
  },
  variants: {
    c876: {
      label: 'three classes at −200 and −350 mV',
      source: C876,
      params: {
        electrodes: { cse: '316', sce: '241', agcl: '197' },
        temperature: { standard: '22.2', free: '5.5', perDegree: '0.9' },
        classes: { noCorrosionAbove: '-200', corrosionBelow: '-350' },
      } as HalfCellParams,
    },
  },
  steps: [
    {
      text: 'Steel continuous, connection clean, meter at least 10 MΩ, positive lead to steel; surface damp, stable within 20 mV over 5 min.',
    },
    { text: 'Copper sulfate is toxic: gloves, no eating. Traffic on deck surveys.', caution: true },
  ],
  run(r) {
    const { c, x, p, system } = r;
    const potential = r.need('potential', 'mV');
    if (x.electrode === null) r.missing('electrode');
    const unit = system === 'us' ? 'F' : 'C';
    const t = r.need('temperature', unit);
    if (t === null) return;
    // 0.9 mV/°C and 22.2 ± 5.5 °C; 0.5 mV/°F and 72 ± 10 °F, each as quoted.
    const [standard, free, per] =
      unit === 'F' ? ['72', '10', '0.5'] : [p.temperature.standard, p.temperature.free, p.temperature.perDegree];
    const off = c.sub(t, c.num(standard));
    const outside = c.value(off).abs().compare(exact(free)) > 0;
    const correction = outside ? c.name('ΔE', c.mul(c.num(per), off), 'mV') : c.num('0');
    r.result('correction', correction, 'mV');
    if (potential === null || x.electrode === null) return;
    if (c.value(potential).compare(0) > 0) r.doubt('swapped-leads', 'potential');
    const shift = c.sub(c.num(p.electrodes[x.electrode]), c.num(p.electrodes.cse));
    const cse = c.name('E_CSE', c.add(c.add(potential, shift), correction), 'mV');
    r.result('cse', cse, 'mV', { mV: '10' });
    r.says('class', [classOf(c.value(cse), p)]);
  },
});

/** On a boundary it is uncertain, not safe. */
function classOf(e: Exact, p: HalfCellParams): 'no_corrosion' | 'uncertain' | 'corrosion' {
  if (e.compare(exact(p.classes.noCorrosionAbove)) > 0) return 'no_corrosion';
  return e.compare(exact(p.classes.corrosionBelow)) < 0 ? 'corrosion' : 'uncertain';
}
