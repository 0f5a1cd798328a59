import { exact, toStep, type Exact } from '../../numbers/exact.js';
import type { System } from '../../units/units.js';
import type { Calc } from '../calc.js';
import { method, pick, qty, type Citation, type Run, type Shape } from '../definition.js';

export const C876: Citation = { designation: 'ASTM C876', edition: '2022' };

export type HalfCellParams = {
  /** Potentials of the electrodes, mV; the first is the reference. */
  electrodes: Record<Electrode, string>;
  /** Corrected outside standard ± free, by so many mV a degree: each system as quoted. */
  temperature: Record<System, { standard: string; free: string; perDegree: string }>;
  /** The coefficient is this electrode’s own; others have it from their maker. */
  coefficientOf: Electrode;
  /** Reporting step, mV. */
  step: string;
  classes: { noCorrosionAbove: string; corrosionBelow: string };
};

export type CorrosionClass = 'no_corrosion' | 'uncertain' | 'corrosion';

export const CLASS_WORDS: Readonly<Record<CorrosionClass, string>> = {
  no_corrosion: 'over 90 % likely that nothing corrodes',
  uncertain: 'uncertain',
  corrosion: 'over 90 % likely that steel corrodes',
};

export type Electrode = 'cse' | 'sce' | 'agcl';

export const ELECTRODE = pick('Electrode', { cse: 'Copper, copper sulfate', sce: 'Saturated calomel', agcl: 'Silver, silver chloride' });

export const TEMPERATURE = qty(
  'temperature',
  't',
  'Temperature',
  { si: 'C', us: 'F' },
  { possible: { unit: 'C', least: '-20', most: '60' } },
);

/** What the maker of an electrode gives for it, mV a degree of the system. */
export const COEFFICIENT = qty(
  'ratio',
  'k',
  'Its maker’s coefficient, mV a degree',
  { si: '1', us: '1' },
  { optional: true, minor: true, possible: { unit: '1', least: '-5', most: '5' } },
);

export const POTENTIAL = qty(
  'potential',
  'E',
  'Potential',
  { si: 'mV', us: 'mV' },
  {
    possible: { unit: 'mV', least: '-2000', most: '2000' },
    plausible: { unit: 'mV', least: '-900', most: '900' },
    typical: { text: '-250', unit: 'mV' },
  },
);

export const HALF_CELL: HalfCellParams = {
  electrodes: { cse: '316', sce: '241', agcl: '197' },
  temperature: { si: { standard: '22.2', free: '5.5', perDegree: '0.9' }, us: { standard: '72', free: '10', perDegree: '0.5' } },
  coefficientOf: 'cse',
  step: '10',
  classes: { noCorrosionAbove: '-200', corrosionBelow: '-350' },
};

/**
 * What the temperature adds to a potential, mV; nothing within the free band, nor for another electrode whose maker’s coefficient
 * nobody keyed. `t` in the system's own unit, the coefficient in mV a degree of it.
 */
export function temperatureCorrection<V>(
  r: { c: Calc<V>; system: System; p: HalfCellParams; note(code: 'not-corrected-for-temperature'): void },
  t: V,
  electrode: Electrode,
  coefficient: V | null = null,
): V {
  const { c, system, p } = r;
  const { standard, free, perDegree } = p.temperature[system];
  const off = c.sub(t, c.num(standard));
  if (c.value(off).abs().compare(exact(free)) <= 0) return c.num('0');
  if (coefficient !== null) return c.name('ΔE', c.mul(coefficient, off), 'mV');
  if (electrode === p.coefficientOf) return c.name('ΔE', c.mul(c.num(perDegree), off), 'mV');
  r.note('not-corrected-for-temperature');
  return c.num('0');
}

/** What is added to a potential of this electrode to have it against copper, copper sulfate: E° − 316 mV. */
export const electrodeShift = <V>(c: Calc<V>, electrode: Electrode, p: HalfCellParams): V =>
  c.sub(c.num(p.electrodes[electrode]), c.num(p.electrodes.cse));

export const halfCell = method({
  id: 'half-cell',
  on: ['area'],
  kit: 'electrode',
  title: 'Half-cell potential',
  names: ['half-cell', 'corrosion potential', 'CSE', 'electrode', 'potential survey'],
  follows: [C876],
  about: 'Potential of steel in concrete against a reference electrode: a probability of corrosion at that time, not a rate.',
  fields: { potential: POTENTIAL, electrode: ELECTRODE, temperature: TEMPERATURE, coefficient: COEFFICIENT },
  results: {
    correction: { label: 'Correction for temperature', symbol: 'ΔE', units: { si: 'mV', us: 'mV' } },
    cse: { label: 'Potential against copper, copper sulfate', symbol: 'E_CSE', units: { si: 'mV', us: 'mV' }, main: true },
    class: { label: 'Class', symbol: 'class', units: { si: '1', us: '1' }, words: CLASS_WORDS, main: true },
  },
  variants: { c876: { label: 'three classes at −200 and −350 mV', source: C876, params: HALF_CELL } },
  steps: [
    {
      text: 'Steel continuous, connection clean, meter at least 10 MΩ, positive lead to steel; surface damp, stable within 20 mV over 5 min.',
    },
    { text: 'Copper sulfate is toxic: gloves, no eating. Traffic on deck surveys.', caution: true },
  ],
  example: { potential: '-285 mV', electrode: 'agcl', temperature: '9.5 C' },
  run(r) {
    const { c, x, p, system } = r;
    const potential = r.need('potential', 'mV');
    if (x.electrode === null) r.missing('electrode');
    const t = r.need('temperature', system === 'us' ? 'F' : 'C');
    if (t === null || x.electrode === null) return;
    const correction = temperatureCorrection(r, t, x.electrode, r.have('coefficient', '1'));
    r.result('correction', correction, 'mV');
    if (potential === null) return;
    const swapped = c.value(potential).sign() > 0;
    if (swapped)
      r.doubt('swapped-leads', 'potential', {}, { text: `-${x.potential!.text.trim().replace(/^\+/, '')}`, unit: x.potential!.unit });
    const cse = c.name('E_CSE', c.add(c.add(potential, electrodeShift(c, x.electrode, p)), correction), 'mV');
    r.result('cse', cse, 'mV', { mV: p.step });
    // What it means is said of the sign that it ought to have.
    if (swapped) return;
    r.says('class', [classOf(c.value(cse), p)]);
    boundaryNote(r, c.value(cse));
  },
});

const boundaries = (p: HalfCellParams): string[] => [p.classes.noCorrosionAbove, p.classes.corrosionBelow];

/** Says that a potential is exactly on a boundary of the classes, or is reported there: the class is by the unrounded value. */
function boundaryNote<V>(r: Run<Shape, HalfCellParams, V>, e: Exact): void {
  const limit = boundaries(r.p).find((text) => toStep(e, exact(r.p.step)).equals(exact(text)));
  if (limit === undefined) return;
  if (e.equals(exact(limit))) r.note('on-a-boundary');
  else r.note('rounds-to-a-boundary', { reported: `${limit} mV` });
}

/** On a boundary it is uncertain, not safe. */
export function classOf(e: Exact, p: HalfCellParams): CorrosionClass {
  if (e.compare(exact(p.classes.noCorrosionAbove)) > 0) return 'no_corrosion';
  return e.compare(exact(p.classes.corrosionBelow)) < 0 ? 'corrosion' : 'uncertain';
}
