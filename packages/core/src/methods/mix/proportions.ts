import type { System } from '../../units/units.js';
import { method, qty } from '../definition.js';
import { ACI, gravity, share, water, WHOLE } from './fields.js';

type PartsParams = { parts: 'mass' | 'loose-volume' };

const loose = (symbol: string, label: string, usual?: Record<System, string>) =>
  qty(
    'density',
    symbol,
    label,
    { si: 'kg/m3', us: 'lb/ft3' },
    {
      possible: { unit: 'kg/m3', above: '0', most: '5000' },
      plausible: { unit: 'kg/m3', least: '900', most: '2000' },
      ...(usual ? { usual } : {}),
    },
  );

export const proportions = method({
  id: 'proportions',
  title: 'Masses from proportions',
  names: ['proportions', '1:2:4', 'nominal mix', 'parts by mass', 'parts by volume', 'loose volume'],
  follows: [ACI],
  about:
    'Masses for one m³ or yd³ from parts, such as 1 : 2 : 3.5 by mass or by loose volume, and w/c by mass: by the absolute volume rule.',
  fields: {
    fineParts: qty('ratio', 'f', 'Fine, parts to one of cement', { si: '1', us: '1' }, { possible: { unit: '1', above: '0', most: '20' } }),
    coarseParts: qty(
      'ratio',
      'k',
      'Coarse, parts to one of cement',
      { si: '1', us: '1' },
      { possible: { unit: '1', least: '0', most: '20' } },
    ),
    wc: qty(
      'ratio',
      'w/c',
      'Water to cement',
      { si: '1', us: '1' },
      { possible: { unit: '1', above: '0', most: '3' }, plausible: { unit: '1', least: '0.25', most: '0.9' } },
    ),
    sgCement: qty('ratio', 'Gc', 'Specific gravity, cement', { si: '1', us: '1' }, gravity),
    sgFine: qty('ratio', 'Gf', 'Specific gravity SSD, fine', { si: '1', us: '1' }, gravity),
    sgCoarse: qty('ratio', 'Gk', 'Specific gravity SSD, coarse', { si: '1', us: '1' }, gravity),
    looseCement: loose('ρc', 'Bulk density, cement', { si: '1506', us: '94' }),
    looseFine: loose('ρf', 'Loose bulk density, fine'),
    looseCoarse: loose('ρk', 'Loose bulk density, coarse'),
    air: qty('percent', 'a', 'Air', { si: '%', us: '%' }, { ...share, plausible: { unit: '%', least: '0', most: '30' } }),
    water,
  },
  results: {
    cement: { label: 'Cement', symbol: 'C', units: { si: 'kg', us: 'lb' }, main: true },
    fine: { label: 'Fine aggregate', symbol: 'F', units: { si: 'kg', us: 'lb' } },
    coarse: { label: 'Coarse aggregate', symbol: 'K', units: { si: 'kg', us: 'lb' } },
    water: { label: 'Water', symbol: 'W', units: { si: 'kg', us: 'lb' } },
    density: { label: 'Density', symbol: 'D', units: { si: 'kg/m3', us: 'lb/ft3' } },
  },
  variants: {
    mass: {
      label: 'parts by mass',
      source: ACI,
      params: { parts: 'mass' } satisfies PartsParams as PartsParams,
      without: ['looseCement', 'looseFine', 'looseCoarse'],
    },
    loose_volume: { label: 'parts by loose volume', source: ACI, params: { parts: 'loose-volume' } satisfies PartsParams as PartsParams },
  },
  steps: [{ text: 'Parts by mass or by loose volume are two recipes: say which. Loose sand bulks with its moisture.' }],
  example: {
    fineParts: '2',
    coarseParts: '3.5',
    wc: '0.50',
    sgCement: '3.15',
    sgFine: '2.64',
    sgCoarse: '2.68',
    looseCement: '1506 kg/m3',
    looseFine: '1520 kg/m3',
    looseCoarse: '1480 kg/m3',
    air: '2.0 %',
    water: '1000 kg/m3',
  },
  run(r) {
    const { c, p, system } = r;
    const [mass, density] = system === 'us' ? (['lb', 'lb/ft3'] as const) : (['kg', 'kg/m3'] as const);
    const [keyedFine, keyedCoarse, wc] = [r.need('fineParts', '1'), r.need('coarseParts', '1'), r.need('wc', '1')];
    const [f, k] =
      p.parts === 'mass' ? [keyedFine, keyedCoarse] : [byMass('f_m', keyedFine, 'looseFine'), byMass('k_m', keyedCoarse, 'looseCoarse')];
    const [gc, gf, gk] = [r.need('sgCement', '1'), r.need('sgFine', '1'), r.need('sgCoarse', '1')];
    const [air, rho] = [r.need('air', '%'), r.need('water', density)];
    if (f === null || k === null || wc === null || gc === null || gf === null || gk === null || air === null || rho === null) return;
    const one = c.num('1');
    const whole = c.num(WHOLE[system]);
    const perCement = c.name(
      'v',
      c.sum([c.div(one, c.mul(gc, rho)), c.div(f, c.mul(gf, rho)), c.div(k, c.mul(gk, rho)), c.div(wc, rho)]),
      system === 'us' ? 'ft3' : 'm3',
    );
    const room = c.mul(whole, c.sub(one, c.div(air, c.num('100'))));
    const cement = c.name('C', c.div(room, perCement), mass);
    const parts = { cement, fine: c.mul(cement, f), coarse: c.mul(cement, k), water: c.mul(cement, wc) };
    for (const id of ['cement', 'fine', 'coarse', 'water'] as const) r.result(id, parts[id], mass);
    r.result('density', c.name('D', c.div(c.sum(Object.values(parts)), whole), density), density);

    /** Parts by mass of so many parts by loose volume: parts · ρ/ρc. */
    function byMass(symbol: string, parts: typeof keyedFine, aggregate: 'looseFine' | 'looseCoarse') {
      const [own, cementOwn] = [r.need(aggregate, density), r.need('looseCement', density)];
      return parts === null || own === null || cementOwn === null ? null : c.name(symbol, c.div(c.mul(parts, own), cementOwn), '1');
    }
  },
});
