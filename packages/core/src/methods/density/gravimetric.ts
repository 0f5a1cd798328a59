import type { Calc } from '../calc.js';
import { method, qty, type Citation, type Increments } from '../definition.js';

const C138: Citation = { designation: 'ASTM C138/C138M', edition: '2023', part: 'air content' };

export const AIR_INCREMENTS: Increments = { '%': '0.1' };
export const USUAL_AIR = { unit: '%', least: '0', most: '15' } as const;

/** A = 100·(T − D)/T. */
export const airFromDensity = <V>(c: Calc<V>, theoretical: V, density: V): V =>
  c.name('A', c.div(c.mul(c.num('100'), c.sub(theoretical, density)), theoretical), '%');

/** A = 100·(Yf − V)/Yf. */
const airFromVolume = <V>(c: Calc<V>, made: V, absolute: V): V => c.name('A', c.div(c.mul(c.num('100'), c.sub(made, absolute)), made), '%');

type GravimetricParams = { form: 'density' | 'volume' };

export const gravimetricAir = method({
  id: 'gravimetric-air',
  on: ['sample'],
  title: 'Air content, gravimetric',
  names: ['gravimetric air', 'air by weight', 'air content'],
  follows: [C138],
  about: 'Air from the density, or from the volume made, against the same concrete without air.',
  fields: {
    theoretical: qty(
      'density',
      'T',
      'Theoretical density, air-free',
      { si: 'kg/m3', us: 'lb/ft3' },
      { takes: 'mix.theoretical', possible: { unit: 'kg/m3', above: '0', most: '6000' } },
    ),
    density: qty(
      'density',
      'D',
      'Density',
      { si: 'kg/m3', us: 'lb/ft3' },
      { takes: 'test.density', possible: { unit: 'kg/m3', above: '0', most: '6000' } },
    ),
    made: qty('volume', 'Yf', 'Volume made', { si: 'm3', us: 'ft3' }, { possible: { unit: 'm3', above: '0', most: '50' } }),
    absolute: qty(
      'volume',
      'V',
      'Absolute volume of the ingredients',
      { si: 'm3', us: 'ft3' },
      {
        possible: { unit: 'm3', above: '0', most: '50' },
      },
    ),
  },
  results: {
    air: {
      label: 'Air, gravimetric',
      symbol: 'A',
      units: { si: '%', us: '%' },
      property: 'air-gravimetric',
      plausible: USUAL_AIR,
      main: true,
    },
  },
  variants: {
    density: {
      label: 'from the densities',
      source: C138,
      params: { form: 'density' } satisfies GravimetricParams as GravimetricParams,
      without: ['made', 'absolute'],
    },
    volume: {
      label: 'from the volumes',
      source: C138,
      params: { form: 'volume' } satisfies GravimetricParams as GravimetricParams,
      without: ['theoretical', 'density'],
    },
  },
  steps: [
    { text: 'Take the air-free density of what was in the truck: water added on site lowers it.' },
    { text: 'A stale theoretical density is the usual reason that gravimetric and pressure air disagree.' },
  ],
  example: { theoretical: '2424 kg/m3', density: '2286 kg/m3', made: '6.001 m3', absolute: '5.66 m3' },
  run(r) {
    const { c, p, system } = r;
    const [volume, density] = system === 'us' ? (['ft3', 'lb/ft3'] as const) : (['m3', 'kg/m3'] as const);
    const [whole, part] =
      p.form === 'density'
        ? [r.need('theoretical', density), r.need('density', density)]
        : [r.need('made', volume), r.need('absolute', volume)];
    if (whole === null || part === null) return;
    if (p.form === 'density' && c.value(part).compare(c.value(whole)) > 0) r.doubt('denser-than-air-free', 'density');
    r.result('air', p.form === 'density' ? airFromDensity(c, whole, part) : airFromVolume(c, whole, part), '%', AIR_INCREMENTS);
  },
});
