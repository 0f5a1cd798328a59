import { brief, exact } from '../../numbers/exact.js';
import type { System } from '../../units/units.js';
import { method, qty, type Citation, type Increments } from '../definition.js';
import { extent } from '../fit.js';
import { column } from '../rows.js';
import { AGE, strengthOfEach } from '../ages/ages.js';
import { stressUnit } from './fields.js';
import { each } from '../../examples/write.js';

const C39: Citation = { designation: 'ASTM C39/C39M', edition: '2024', part: 'precision' };
const ACI214: Citation = { designation: 'ACI 214R', edition: '2011', part: 'standards of control' };

const strength = strengthOfEach('Companions', 'test.strength');

type RangeParams = { most: Readonly<Record<string, string>>; increments: Increments };

const INCREMENTS: Increments = { MPa: '0.1', psi: '10', '%': '0.1' };

export const companions = method({
  id: 'companions',
  on: ['specimen-set'],
  suits: { 'specimens.shape': ['cylinder', 'core'] },
  title: 'Range of companions',
  names: ['companions', 'range', 'pair', 'within-test range'],
  follows: [C39],
  about:
    'Companions of one sample further apart than the method allows are flagged: one is dropped only with a noted cause, never by arithmetic alone.',
  fields: { age: AGE, companions: strength },
  results: {
    mean: { label: 'Strength test', symbol: 'X', units: { si: 'MPa', us: 'psi' }, main: true },
    range: { label: 'Range, of the mean', symbol: 'R', units: { si: '%', us: '%' } },
  },
  variants: {
    'field-6x12': {
      label: '150 × 300 mm (6 × 12 in), field: 8.0 or 9.5 %',
      source: C39,
      params: { most: { '2': '8.0', '3': '9.5' }, increments: INCREMENTS } satisfies RangeParams as RangeParams,
    },
    'lab-6x12': {
      label: '150 × 300 mm (6 × 12 in), laboratory: 6.6 or 7.8 %',
      source: C39,
      params: { most: { '2': '6.6', '3': '7.8' }, increments: INCREMENTS } satisfies RangeParams as RangeParams,
    },
    'lab-4x8': {
      label: '100 × 200 mm (4 × 8 in), laboratory: 9.0 or 10.6 %',
      source: C39,
      params: { most: { '2': '9.0', '3': '10.6' }, increments: INCREMENTS } satisfies RangeParams as RangeParams,
    },
    splitting: {
      label: 'split cylinders: 14 %',
      source: { designation: 'ASTM C496/C496M', edition: '2017', part: 'precision' },
      params: { most: { '2': '14' }, increments: { ...INCREMENTS, MPa: '0.05', psi: '5' } } satisfies RangeParams as RangeParams,
    },
    flexure: {
      label: 'beams: 16 %',
      source: { designation: 'ASTM C78/C78M', edition: '2022', part: 'precision' },
      params: { most: { '2': '16' }, increments: { ...INCREMENTS, MPa: '0.05', psi: '5' } } satisfies RangeParams as RangeParams,
    },
  },
  steps: [{ text: 'Look at caps, alignment, fracture and handling before anything is left out.' }],
  example: { companions: each('MPa', 'strength', '38.1 38.7') },
  run(r) {
    const { c, p, system } = r;
    const unit = stressUnit(system);
    const values = column(r, 'companions', 'strength', unit, 'f', 2);
    if (!values) return;
    const mean = c.name('X', c.mean(values), unit);
    const { least, most: greatest } = extent(c, values);
    const range = c.name('R', c.div(c.mul(c.num('100'), c.sub(greatest, least)), mean), '%');
    r.result('mean', mean, unit, p.increments);
    r.result('range', range, '%', p.increments);
    const most = p.most[String(values.length)];
    if (most !== undefined && c.value(range).compare(exact(most)) > 0)
      r.marks('companions-apart', { range: brief(c.value(range), 3, exact(most)), most });
  },
});

type Grade = { grade: string; below: string | null };
type GradeParams = {
  upTo: Record<System, string>;
  deviation: Record<System, readonly Grade[]>;
  variation: readonly Grade[];
  within: readonly Grade[];
};

/** Grades of control, the best first: ACI 214R. */
export const CONTROL_GRADES = ['excellent', 'very good', 'good', 'fair', 'poor'] as const;

const grades = (...below: string[]): Grade[] => CONTROL_GRADES.map((grade, i) => ({ grade, below: below[i] ?? null }));

export const controlGrade = method({
  id: 'control-grade',
  title: 'Grade of control',
  names: ['control', 'grade of control', 'standards of control', 'excellent, good, fair, poor'],
  follows: [ACI214],
  about: 'How well a mix is under control in general construction, by its overall and its within-test scatter.',
  fields: {
    specified: qty(
      'stress',
      'f’c',
      'Specified strength f’c',
      { si: 'MPa', us: 'psi' },
      { possible: { unit: 'MPa', above: '0', most: '300' } },
    ),
    deviation: qty('stress', 's', 'Standard deviation', { si: 'MPa', us: 'psi' }, { possible: { unit: 'MPa', least: '0', most: '50' } }),
    variation: qty(
      'percent',
      'V',
      'Coefficient of variation',
      { si: '%', us: '%' },
      { optional: true, possible: { unit: '%', least: '0', most: '100' } },
    ),
    within: qty(
      'percent',
      'V1',
      'Within-test coefficient of variation',
      { si: '%', us: '%' },
      { optional: true, possible: { unit: '%', least: '0', most: '100' } },
    ),
  },
  results: {
    overall: { label: 'Overall', symbol: 'overall', units: { si: '1', us: '1' }, main: true },
    within: { label: 'Within test', symbol: 'within', units: { si: '1', us: '1' } },
  },
  variants: {
    aci214: {
      label: 'by s up to 5000 psi (34.5 MPa), by V above',
      source: ACI214,
      params: {
        upTo: { us: '5000', si: '34.5' },
        deviation: { us: grades('400', '500', '600', '700'), si: grades('2.8', '3.4', '4.1', '4.8') },
        variation: grades('7', '9', '11', '14'),
        within: grades('3', '4', '5', '6'),
      } satisfies GradeParams as GradeParams,
    },
  },
  steps: [{ text: 'For general construction; laboratory trial batches are graded more strictly.' }],
  example: { specified: '30 MPa', deviation: '3.1 MPa', variation: '8.4 %', within: '3.6 %' },
  run(r) {
    const { c, p, system } = r;
    const unit = stressUnit(system);
    const [specified, deviation] = [r.need('specified', unit), r.need('deviation', unit)];
    const of = (table: readonly Grade[], v: typeof deviation): string[] =>
      v === null ? [] : [table.find(({ below }) => below === null || c.value(v).compare(exact(below)) < 0)!.grade];
    const within = r.have('within', '%');
    if (within !== null) r.says('within', of(p.within, within));
    if (specified === null || deviation === null) return;
    if (c.value(specified).compare(exact(p.upTo[system])) <= 0) return r.says('overall', of(p.deviation[system], deviation));
    const variation = r.need('variation', '%');
    if (variation !== null) r.says('overall', of(p.variation, variation));
  },
});
