import { brief, exact } from '../../numbers/exact.js';
import type { System } from '../../units/units.js';
import { method, pick, qty, YES_NO, type Citation, type Increments } from '../definition.js';
import { startWithin5 } from '../composite/windows.js';

const C1611: Citation = { designation: 'ASTM C1611/C1611M', edition: '2021' };
const EN: Citation = { designation: 'EN 12350-8', edition: '2019' };

type FlowParams = { increments: Increments; agree: Record<System, string> };

export const slumpFlow = method({
  id: 'slump-flow',
  on: ['sample'],
  kit: 'slump-cone',
  way: { of: 'consistency' },
  title: 'Slump flow',
  names: ['slump flow', 'flow', 'spread', 'T50', 'SCC', 'self-consolidating'],
  follows: [C1611, EN],
  about: 'How far self-consolidating concrete spreads: two diameters at right angles, not rodded.',
  fields: {
    d1: qty(
      'length',
      'd1',
      'Largest diameter',
      { si: 'mm', us: 'in' },
      {
        possible: { unit: 'mm', above: '0', most: '2000' },
        plausible: { unit: 'mm', least: '200', most: '1000' },
      },
    ),
    d2: qty(
      'length',
      'd2',
      'Diameter at right angles',
      { si: 'mm', us: 'in' },
      {
        possible: { unit: 'mm', above: '0', most: '2000' },
        plausible: { unit: 'mm', least: '200', most: '1000' },
      },
    ),
    t50: qty(
      'time',
      'T50',
      'Time to 500 mm (20 in)',
      { si: 's', us: 's' },
      { optional: true, minor: true, possible: { unit: 's', above: '0', most: '120' } },
    ),
    vsi: pick(
      'Visual stability index',
      { '0': '0, highly stable', '1': '1, stable', '2': '2, unstable', '3': '3, highly unstable' },
      { optional: true },
    ),
  },
  results: {
    flow: { label: 'Slump flow', symbol: 'flow', units: { si: 'mm', us: 'in' }, property: 'slump-flow', main: true },
    agree: { label: 'The diameters agree', symbol: 'agree', units: { si: '1', us: '1' }, words: YES_NO },
  },
  variants: {
    c1611: {
      label: 'to 10 mm or 1/2 in',
      source: C1611,
      params: { increments: { mm: '10', in: '0.5' }, agree: { si: '50', us: '2' } } satisfies FlowParams as FlowParams,
    },
  },
  steps: [
    { text: 'Fill the mold without rodding, strike off, lift within 2 to 4 s; measure when it has stopped.' },
    { text: 'Gloves, eyes covered. Fresh paste burns skin: rinse at once, never kneel in it.', caution: true },
  ],
  windows: [startWithin5(C1611, 'Slump flow started')],
  example: { d1: '640 mm', d2: '655 mm', t50: '3.2 s', vsi: '1' },
  run(r) {
    const { x, p, c, system } = r;
    const unit = system === 'us' ? 'in' : 'mm';
    const [d1, d2] = [r.need('d1', unit), r.need('d2', unit)];
    if (x.vsi === '2' || x.vsi === '3') r.note('unstable-flow', { index: x.vsi });
    if (d1 === null || d2 === null) return;
    const apart = c.value(d1).sub(c.value(d2)).abs();
    const agree = apart.compare(exact(p.agree[system])) <= 0;
    r.says('agree', [agree ? 'yes' : 'no']);
    // The mean stands, marked: whether the concrete or the board was at fault only a repeat can tell.
    if (!agree)
      r.marks('diameters-apart', { apart: `${brief(apart, 3, exact(p.agree[system]))} ${unit}`, most: `${p.agree[system]} ${unit}` });
    r.result('flow', c.name('flow', c.div(c.add(d1, d2), c.num('2')), unit), unit, p.increments);
  },
});
