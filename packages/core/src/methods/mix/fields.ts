import { qty, type Citation } from '../definition.js';

export const ACI: Citation = { designation: 'ACI 211.1', edition: '2022', part: 'absolute volume method' };
export const C94: Citation = { designation: 'ASTM C94/C94M', edition: '2023', part: 'batch ticket' };

export const mass = { possible: { unit: 'kg', least: '0', most: '60000' } } as const;
export const gravity = { possible: { unit: '1', above: '0', most: '10' }, plausible: { unit: '1', least: '0.8', most: '5' } } as const;
export const share = { possible: { unit: '%', least: '0', most: '100' } } as const;

export const water = qty(
  'density',
  'ρw',
  'Density of water',
  { si: 'kg/m3', us: 'lb/ft3' },
  {
    usual: { si: '1000', us: '62.43' },
    possible: { unit: 'kg/m3', above: '0', most: '1100' },
    plausible: { unit: 'kg/m3', least: '990', most: '1001' },
  },
);

/** The method prints none: as clauses are written. */
export const WCM_INCREMENTS = { '1': '0.01' } as const;

/** Volume that a design fills: 1 m³, or 27 ft³ for a yard. */
export const WHOLE = { si: '1', us: '27' } as const;

export const percent = (symbol: string, label: string) =>
  qty(
    'percent',
    symbol,
    label,
    { si: '%', us: '%' },
    {
      possible: { unit: '%', least: '0', most: '50' },
      plausible: { unit: '%', least: '0.2', most: '15', zero: true },
      typical: { text: '3', unit: '%' },
    },
  );
