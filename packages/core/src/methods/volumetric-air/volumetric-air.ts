import { brief, exact } from '../../numbers/exact.js';
import { method, qty, YES_NO, type Citation, type Increments } from '../definition.js';
import { startWithin5 } from '../composite/windows.js';

const C173: Citation = { designation: 'ASTM C173/C173M', edition: '2016' };

type VolumetricParams = {
  /** From this much alcohol on the meter's own correction is taken off. */
  alcohol: { pints: string; litres: string };
  agree: string;
  increments: Increments;
};

const reading = { possible: { unit: '%', least: '0', most: '100' }, plausible: { unit: '%', least: '0', most: '15' } } as const;

export const volumetricAir = method({
  id: 'volumetric-air',
  on: ['sample'],
  kit: 'volume-meter',
  title: 'Air, volumetric',
  short: 'Air',
  names: ['volumetric air', 'roller meter', 'rolling meter', 'roll meter', 'air content', 'lightweight air'],
  follows: [C173],
  about: 'Air washed out of the concrete under water and alcohol: for any aggregate, porous ones too.',
  fields: {
    previous: qty('percent', 'R1', 'Reading after the rolling before', { si: '%', us: '%' }, reading),
    final: qty('percent', 'AR', 'Final meter reading', { si: '%', us: '%' }, reading),
    alcohol: qty(
      'volume',
      'Va',
      'Alcohol used',
      { si: 'L', us: 'pt' },
      { plausible: { unit: 'L', least: '0.1', most: '3' }, possible: { unit: 'L', least: '0', most: '5' } },
    ),
    correction: qty(
      'percent',
      'C',
      'Correction of this meter for that much alcohol',
      { si: '%', us: '%' },
      {
        optional: true,
        possible: { unit: '%', least: '0', most: '5' },
      },
    ),
    cups: qty(
      'ratio',
      'W',
      'Calibrated cups of water added',
      { si: '1', us: '1' },
      {
        usual: { si: '0', us: '0' },
        possible: { unit: '1', least: '0', most: '20' },
      },
    ),
  },
  results: {
    air: {
      label: 'Air',
      symbol: 'A',
      units: { si: '%', us: '%' },
      property: 'air',
      plausible: { unit: '%', least: '0', most: '15' },
      main: true,
    },
    agree: { label: 'Two rollings agree', symbol: 'agree', units: { si: '1', us: '1' }, words: YES_NO },
  },
  variants: {
    c173: {
      label: 'to 0.25 %',
      source: C173,
      params: {
        alcohol: { pints: '2.5', litres: '1.2' },
        agree: '0.25',
        increments: { '%': '0.25' },
      } satisfies VolumetricParams as VolumetricParams,
    },
  },
  steps: [
    { text: 'Fill the bowl in two layers, rod and tap each, strike off; clamp the top section on.' },
    { text: 'Water and isopropyl alcohol through the funnel up to the zero mark; note how much alcohol.' },
    { text: 'Invert and shake for at least 45 s, 5 s at a time, until the concrete is free of the base.' },
    { text: 'Roll it at 45° for about 1 min; stand it upright until the level is steady; read. Roll again until two readings agree.' },
    { text: 'Isopropyl alcohol burns: no flame, no smoking, air the room.', caution: true },
    { text: 'A full meter is heavy and slippery: two hands, gloves, eyes covered.', caution: true },
  ],
  work: { on: 'fresh', order: 4 },
  suits: { 'mix.aggregate': ['porous'] },
  windows: [startWithin5(C173, 'Air test started')],
  example: { previous: '6.25 %', final: '6.0 %', alcohol: '1.2 L', correction: '0.25 %', cups: '1' },
  run(r) {
    const { x, p, c } = r;
    const [previous, final, cups] = [r.need('previous', '%'), r.need('final', '%'), r.need('cups', '1')];
    const alcohol = r.need('alcohol', x.alcohol?.unit === 'pt' ? 'pt' : 'L');
    if (previous !== null && final !== null) {
      const apart = c.value(previous).sub(c.value(final)).abs();
      const agree = apart.compare(exact(p.agree)) <= 0;
      r.says('agree', [agree ? 'yes' : 'no']);
      if (!agree) r.marks('rollings-apart', { apart: brief(apart, 2, exact(p.agree)), most: p.agree });
    }
    if (final === null || alcohol === null || cups === null) return;
    // 2.5 pt and 1.2 L are each as quoted: the unit that it was measured in decides.
    const much = c.value(alcohol).compare(exact(x.alcohol?.unit === 'pt' ? p.alcohol.pints : p.alcohol.litres)) >= 0;
    const correction = much ? r.need('correction', '%') : c.num('0');
    if (correction === null) return;
    const air = much ? c.add(c.sub(final, correction), cups) : c.add(final, cups);
    r.result('air', c.name('A', air, '%'), '%', p.increments);
  },
});
