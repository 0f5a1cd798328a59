import { exact, toStep, type Exact } from '../../numbers/exact.js';
import type { System } from '../../units/units.js';
import { method, pick, qty, type Citation } from '../definition.js';

const C94: Citation = { designation: 'ASTM C94/C94M', edition: '2023', part: 'table of tolerances for slump' };
const EN206: Citation = { designation: 'EN 206', edition: '2021', part: 'consistence classes' };

/** Up to and including `upTo`: this tolerance. The last row has no upper end. */
type Row = { upTo: string | null; tolerance: string };

type C94Params = { target: Record<System, readonly Row[]>; max: Record<System, readonly Row[]> };

const rowFor = (table: readonly Row[], value: Exact): Row =>
  table.find((row) => row.upTo === null || value.compare(exact(row.upTo)) <= 0) ?? table[table.length - 1]!;

export const slumpLimits = method({
  id: 'slump-limits',
  title: 'Slump limits from a target or a maximum',
  names: ['slump tolerance', 'slump limits', 'target slump', 'not to exceed'],
  follows: [C94],
  about: 'The limits that a slump in an order means. Inch and millimetre tolerances are each as quoted, not conversions.',
  fields: {
    form: pick('How the slump is specified', { target: 'Target', max: 'Maximum, not to exceed' }),
    value: qty(
      'length',
      'S',
      'Slump specified',
      { si: 'mm', us: 'in' },
      {
        possible: { unit: 'mm', least: '0', most: '305' },
      },
    ),
  },
  results: {
    lower: { label: 'Lower limit', symbol: 'lower', units: { si: 'mm', us: 'in' } },
    upper: { label: 'Upper limit', symbol: 'upper', units: { si: 'mm', us: 'in' } },
  },
  variants: {
    c94: {
      label: 'tolerances by size of the slump',
      source: C94,
      params: {
        target: {
          us: [
            { upTo: '2', tolerance: '0.5' },
            { upTo: '4', tolerance: '1' },
            { upTo: null, tolerance: '1.5' },
          ],
          si: [
            { upTo: '50', tolerance: '15' },
            { upTo: '100', tolerance: '25' },
            { upTo: null, tolerance: '40' },
          ],
        },
        max: {
          us: [
            { upTo: '3', tolerance: '1.5' },
            { upTo: null, tolerance: '2.5' },
          ],
          si: [
            { upTo: '75', tolerance: '40' },
            { upTo: null, tolerance: '65' },
          ],
        },
      } satisfies C94Params as C94Params,
    },
  },
  steps: [{ text: 'Say whether the order gives a target or a maximum: the tolerances differ.' }],
  example: { form: 'target', value: '100 mm' },
  run(r) {
    const { x, p, c, system } = r;
    const unit = system === 'us' ? 'in' : 'mm';
    const value = r.need('value', unit);
    if (x.form === null) r.missing('form');
    if (value === null || x.form === null) return;
    const { tolerance } = rowFor(p[x.form][system], c.value(value));
    const below = c.sub(value, c.num(tolerance));
    r.result('lower', c.name('lower', c.value(below).compare(0) < 0 ? c.num('0') : below, unit), unit);
    r.result('upper', c.name('upper', x.form === 'target' ? c.add(value, c.num(tolerance)) : value, unit), unit);
  },
});

type ClassParams = { step: string; classes: readonly { id: string; least: string }[] };

export const slumpClass = method({
  id: 'slump-class',
  title: 'Slump class',
  names: ['consistence class', 'slump class', 'S1', 'S2', 'S3', 'S4', 'S5'],
  follows: [EN206],
  about: 'The consistence class of a slump, by the value as it is reported, to 10 mm.',
  fields: {
    slump: qty('length', 's', 'Slump', { si: 'mm', us: 'in' }, { possible: { unit: 'mm', least: '0', most: '305' } }),
  },
  results: {
    slump: { label: 'Slump', symbol: 'slump', units: { si: 'mm', us: 'mm' } },
    class: { label: 'Class', symbol: 'class', units: { si: '1', us: '1' }, main: true },
  },
  variants: {
    en206: {
      label: 'five classes',
      source: EN206,
      params: {
        step: '10',
        classes: [
          { id: 'S5', least: '220' },
          { id: 'S4', least: '160' },
          { id: 'S3', least: '100' },
          { id: 'S2', least: '50' },
          { id: 'S1', least: '10' },
        ],
      } satisfies ClassParams as ClassParams,
    },
  },
  steps: [{ text: 'By the slump as it is reported; on a boundary the class is the higher one.' }],
  example: { slump: '96 mm' },
  run(r) {
    const slump = r.need('slump', 'mm');
    if (slump === null) return;
    const { step, classes } = r.p;
    r.result('slump', slump, 'mm', { mm: step });
    const rounded = toStep(r.c.value(slump), exact(step));
    const found = classes.find(({ least }) => rounded.compare(exact(least)) >= 0);
    if (found) r.says('class', [found.id]);
    else {
      r.says('class', []);
      r.note('no-class');
    }
  },
});
