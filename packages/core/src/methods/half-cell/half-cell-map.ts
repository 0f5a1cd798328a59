import { exact, type Exact } from '../../numbers/exact.js';
import type { System } from '../../units/units.js';
import { method, pick, qty, rows } from '../definition.js';
import { extent } from '../fit.js';
import {
  C876,
  classOf,
  ELECTRODE,
  electrodeShift,
  COEFFICIENT,
  HALF_CELL,
  POTENTIAL,
  TEMPERATURE,
  temperatureCorrection,
  type CorrosionClass,
  type HalfCellParams,
} from './half-cell.js';
import { line } from '../../examples/write.js';

type MapParams = HalfCellParams & {
  /** Widest spacing of the grid. */
  spacingMost: Record<System, { value: string; unit: 'm' | 'in' }>;
  /** Neighbours further apart than this, mV: halve the spacing there. */
  neighbours: string;
  /** Between the lines of equal potential, mV. */
  lines: string;
};

const SHORT_WORDS: Readonly<Record<CorrosionClass, string>> = { no_corrosion: 'unlikely', uncertain: 'uncertain', corrosion: 'likely' };

/** A cell of the grid, counted from 1: `2.3` is the third of the second line. */
type Cell<V> = { readonly line: number; readonly at: number; readonly e: V };

const name = ({ line, at }: { line: number; at: number }): string => `${line + 1}.${at + 1}`;

export const halfCellMap = method({
  id: 'half-cell-map',
  on: ['area'],
  kit: 'electrode',
  title: 'Half-cell potential map',
  names: ['potential map', 'corrosion survey', 'half-cell grid', 'equipotential'],
  follows: [C876],
  about:
    'A grid of potentials: against copper, copper sulfate, how they are spread, the share of the area in each class, and where the grid is too wide. A probability of activity at that time, not a rate.',
  panel: 'map',
  fields: {
    electrode: ELECTRODE,
    temperature: TEMPERATURE,
    coefficient: COEFFICIENT,
    spacing: qty('length', 's', 'Spacing of the grid', { si: 'm', us: 'in' }, { possible: { unit: 'm', above: '0', most: '20' } }),
    turned: pick('Leads were swapped', { no: 'No', yes: 'Yes: turn every sign' }, { optional: true, usual: 'no', minor: true }),
    lines: rows('Lines of the grid', { cells: rows('Cells', { potential: { ...POTENTIAL, optional: true } }, { most: 60 }) }, { most: 40 }),
  },
  results: {
    read: { label: 'Cells read', symbol: 'n', units: { si: '1', us: '1' } },
    where: { label: 'Cell', symbol: 'cell', units: { si: '1', us: '1' }, drawn: true },
    cse: { label: 'Potential against copper, copper sulfate', symbol: 'E_CSE', units: { si: 'mV', us: 'mV' }, drawn: true },
    classes: { label: 'Corrosion at each', symbol: 'class', units: { si: '1', us: '1' }, drawn: true, words: SHORT_WORDS },
    noCorrosion: { label: 'More positive than the upper class limit', symbol: 'no', units: { si: '%', us: '%' }, main: true },
    uncertain: { label: 'Uncertain', symbol: '?', units: { si: '%', us: '%' }, main: true },
    corrosion: { label: 'More negative than the lower class limit', symbol: 'yes', units: { si: '%', us: '%' }, main: true },
    lowest: { label: 'Most negative', symbol: 'min', units: { si: 'mV', us: 'mV' } },
    highest: { label: 'Most positive', symbol: 'max', units: { si: 'mV', us: 'mV' } },
    sorted: { label: 'In order, for the cumulative plot', symbol: 'E', units: { si: 'mV', us: 'mV' }, drawn: true },
    frequency: { label: 'Cumulative frequency', symbol: 'F', units: { si: '%', us: '%' }, drawn: true },
    steep: { label: 'Halve the spacing between', symbol: 'steep', units: { si: '1', us: '1' } },
  },
  variants: {
    c876: {
      label: 'three classes at −200 and −350 mV, grid up to 1.2 m (4 ft)',
      source: C876,
      params: {
        ...HALF_CELL,
        spacingMost: { si: { value: '1.2', unit: 'm' }, us: { value: '48', unit: 'in' } },
        neighbours: '150',
        lines: '100',
      } satisfies MapParams as MapParams,
    },
  },
  steps: [
    {
      text: 'Steel continuous, connection clean, meter at least 10 MΩ, positive lead to steel; surface damp, stable within 20 mV over 5 min.',
    },
    { text: 'Not for coated or galvanised bars, nor under dielectric coatings. Cells with no reading stay blank.' },
    { text: 'Copper sulfate is toxic: gloves, no eating. Traffic on deck surveys.', caution: true },
  ],
  example: {
    electrode: 'cse',
    temperature: '14.0 C',
    spacing: '0.6 m',
    lines: [
      line('-120 -135 -150 -170 -160 -140 -130 -125'),
      line('-140 -165 -210 -260 -235 -180 -150 -135'),
      line('-155 -205 -310 -420 -355 -225 -165 -140'),
      line('-150 -190 -270 -360 -300 - -160 -145'),
      line('-130 -150 -190 -230 -205 -165 -145 -130'),
    ],
  },
  run(r) {
    const { c, x, p, system } = r;
    if (x.electrode === null) r.missing('electrode');
    const t = r.need('temperature', system === 'us' ? 'F' : 'C');
    const widest = p.spacingMost[system];
    const spacing = r.need('spacing', widest.unit);
    if (spacing !== null && c.value(spacing).compare(exact(widest.value)) > 0)
      r.doubt('grid-too-wide', 'spacing', { most: `${widest.value} ${widest.unit}` });
    const grid = (x.lines ?? []).map((line, i) =>
      (line.cells ?? []).map((cell, k) =>
        // A blank cell is a cell that was not read, not a reading that is missing.
        cell.potential === null || cell.potential.text.trim() === '' ? null : r.inRow('lines', [i, 'cells', k], 'potential', 'mV', 'E'),
      ),
    );
    const readings = grid.flat().filter((e) => e !== null);
    if (readings.length === 0) return r.missing('lines');
    const positive = readings.every((e) => c.value(e).sign() > 0);
    if (positive && x.turned !== 'yes') r.doubt('swapped-map', 'turned');
    if (x.turned === 'yes') r.note('signs-turned');
    if (x.electrode === null || t === null) return;
    const shift = c.add(electrodeShift(c, x.electrode, p), temperatureCorrection(r, t, x.electrode, r.have('coefficient', '1')));
    const sign = c.num(x.turned === 'yes' ? '-1' : '1');
    const against = grid.map((line) => line.map((e) => e && c.add(c.mul(sign, e), shift)));
    const cells = against.flatMap((line, i) => line.flatMap((e, k): Cell<typeof shift>[] => (e ? [{ line: i, at: k, e }] : [])));
    const all = cells.map(({ e }) => e);
    r.result('read', c.num(String(all.length)), '1', { '1': '1' });
    r.says('where', cells.map(name));
    r.series('cse', all, 'mV', { mV: '10' });
    const unsigned = positive && x.turned !== 'yes';
    const classes = all.map((e) => classOf(c.value(e), p));
    if (!unsigned) r.says('classes', classes);
    const share = (of: CorrosionClass) =>
      c.div(c.mul(c.num('100'), c.num(String(classes.filter((k) => k === of).length))), c.num(String(all.length)));
    // Of potentials with the wrong sign nothing can be said.
    if (!unsigned) {
      r.result('noCorrosion', share('no_corrosion'), '%', { '%': '1' });
      r.result('uncertain', share('uncertain'), '%', { '%': '1' });
      r.result('corrosion', share('corrosion'), '%', { '%': '1' });
    }
    const { least, most } = extent(c, all);
    r.result('lowest', least, 'mV', { mV: '10' });
    r.result('highest', most, 'mV', { mV: '10' });
    // Plotting positions i/(n + 1): no reading stands at 0 or 100 %.
    const sorted = [...all].sort((a, b) => c.value(a).compare(c.value(b)));
    r.series('sorted', sorted, 'mV', { mV: '10' });
    r.series(
      'frequency',
      sorted.map((_e, i) => c.num(`${100 * (i + 1)}/${sorted.length + 1}`)),
      '%',
    );
    const steep = steepBetween(
      against.map((line) => line.map((e) => e && c.value(e))),
      exact(p.neighbours),
    );
    r.says('steep', steep);
    if (steep.length > 0) r.note('grid-too-coarse', { most: p.neighbours, cells: steep.join(', ') });
  },
});

/** Pairs of neighbours, along a line or across, that differ by more than `most`. */
function steepBetween(grid: readonly (readonly (Exact | null)[])[], most: Exact): string[] {
  const found: string[] = [];
  grid.forEach((line, i) => {
    line.forEach((e, k) => {
      for (const [row, at] of [
        [i, k + 1],
        [i + 1, k],
      ] as const) {
        const other = grid[row]?.[at];
        if (e && other && e.sub(other).abs().compare(most) > 0) found.push(`${name({ line: i, at: k })} and ${name({ line: row, at })}`);
      }
    });
  });
  return found;
}
