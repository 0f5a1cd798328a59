import { exact } from '../../numbers/exact.js';
import type { System } from '../../units/units.js';
import { method, pick, qty, type Citation } from '../definition.js';

const C138: Citation = { designation: 'ASTM C138/C138M', edition: '2017a' };
const C31: Citation = { designation: 'ASTM C31/C31M', edition: '2024' };

type Use = 'measure' | 'specimen';

/** Above `rodAbove` only rodding; from `rodFrom` up either; below it only vibration. */
type Span = { rodFrom: string; rodAbove: string | null };

type ConsolidationParams = { unit: Record<System, 'mm' | 'in'>; use: Record<Use, Record<System, Span>> };

export const consolidation = method({
  id: 'consolidation',
  title: 'Consolidation',
  names: ['consolidation', 'rodding', 'vibration', 'rod or vibrate'],
  follows: [C138, C31],
  about: 'Whether fresh concrete is rodded or vibrated into a measure, an air bowl or a specimen: its slump picks it.',
  fields: {
    use: pick('What is filled', { measure: 'Density measure or air bowl', specimen: 'Strength specimen' }),
    slump: qty('length', 's', 'Slump', { si: 'mm', us: 'in' }, { possible: { unit: 'mm', least: '0', most: '305' } }),
  },
  results: { allowed: { label: 'Consolidate by', symbol: 'by', units: { si: '1', us: '1' }, main: true } },
  variants: {
    astm: {
      label: 'by slump: above 75 mm (3 in) rod, below 25 mm (1 in) vibrate',
      source: C138,
      params: {
        unit: { si: 'mm', us: 'in' },
        use: {
          measure: { si: { rodFrom: '25', rodAbove: '75' }, us: { rodFrom: '1', rodAbove: '3' } },
          specimen: { si: { rodFrom: '25', rodAbove: null }, us: { rodFrom: '1', rodAbove: null } },
        },
      } as ConsolidationParams,
    },
  },
  steps: [
    {
      text: 'Rod: three equal layers, the first through its depth, later ones about 25 mm (1 in) into the one below; tap the side 10 to 15 times after each.',
    },
    { text: 'Vibrate: two equal layers, three insertions each, until the surface turns smooth; stop before it froths.' },
  ],
  run(r) {
    const { x, p, c, system } = r;
    const slump = r.need('slump', p.unit[system]);
    if (x.use === null) r.missing('use');
    if (slump === null || x.use === null) return;
    const { rodFrom, rodAbove } = p.use[x.use][system];
    const value = c.value(slump);
    if (value.compare(exact(rodFrom)) < 0) r.says('allowed', ['vibrate']);
    else if (rodAbove !== null && value.compare(exact(rodAbove)) > 0) r.says('allowed', ['rod']);
    else r.says('allowed', ['rod', 'vibrate']);
  },
});
